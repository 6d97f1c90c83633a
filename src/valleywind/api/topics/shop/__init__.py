"""The shop as a whole: its file, its log, its changes, who may come in."""

from valleywind.api.topics.shop import book, changes, copies, entry, events, finding, log, reading, shop, shop_files

ROUTERS = (
    shop.router,
    copies.router,
    shop_files.router,
    log.router,
    book.router,
    entry.router,
    reading.router,
    finding.router,
    events.router,
    changes.router,
)
