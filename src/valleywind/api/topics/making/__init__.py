"""Jobs and their sessions."""

from valleywind.api.topics.making import jobs, log, presence, sessions

ROUTERS = (
    jobs.router,
    log.router,
    sessions.router,
    presence.router,
)
