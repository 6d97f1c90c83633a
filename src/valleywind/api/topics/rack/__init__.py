"""The rack and the stores."""

from valleywind.api.topics.rack import boxes, identify, labels, photo_count, rack, stores, wheels_csv

ROUTERS = (
    rack.router,
    identify.router,
    wheels_csv.router,
    boxes.router,
    stores.router,
    labels.router,
    photo_count.router,
)
