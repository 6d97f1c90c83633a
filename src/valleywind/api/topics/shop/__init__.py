"""The shop as a whole: its file, its log, its changes, who may come in."""

from valleywind.api.topics.shop import book, carried, changes, copies, entry, events, finding, log, reading, shop

ROUTERS = (
    shop.router,
    copies.router,
    carried.router,
    log.router,
    book.router,
    entry.router,
    reading.router,
    finding.router,
    events.router,
    changes.router,
)
