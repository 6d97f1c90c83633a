"""What the routers are handed: the open shop."""

from collections.abc import Iterator
from typing import Annotated

from fastapi import Depends, Request
from sqlalchemy.orm import Session

from valleywind.shop.store import Store


def store(request: Request) -> Store:
    found: Store = request.app.state.store
    return found


def _session(shop: Annotated[Store, Depends(store)]) -> Iterator[Session]:
    with shop.session() as session:
        yield session


Shop = Annotated[Store, Depends(store)]
# "function": committed before the answer goes out, so that the next request sees it.
InSession = Annotated[Session, Depends(_session, scope="function")]
