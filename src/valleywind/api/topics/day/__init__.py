"""What is to be done: the list, the order in which least is changed, and how it is worked down."""

from valleywind.api.topics.day import day

ROUTERS = (day.router,)
