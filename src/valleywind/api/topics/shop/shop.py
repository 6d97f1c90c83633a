"""The shop file itself: where it is, what is in it, loading the demo shop."""

from typing import Literal

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from valleywind.api.access import InSession, Shop, ToWrite
from valleywind.api.problems import RESPONSES
from valleywind.core.refusal import Refusal
from valleywind.demo import harrowfold
from valleywind.shop import machines
from valleywind.shop.store import PLACE_VARIABLE

router = APIRouter(prefix="/shop", tags=["shop"], responses=RESPONSES)


class ShopOut(BaseModel):
    name: str
    path: str = Field(description="The file that holds everything")
    how_to_move: str
    demo: bool = Field(description="Whether this is the demo shop's own file")
    machines: int
    version: str


class DemoIn(BaseModel):
    confirm: Literal["replace by the demo shop"] = Field(description="Said out loud, since it replaces what is there")


def _shop(request: Request, shop: Shop, session: Session) -> ShopOut:
    count = len(machines.every(session))
    demo = bool(request.app.state.demo)
    return ShopOut(
        name=harrowfold.NAME if demo else "Your shop",
        path=str(shop.path),
        how_to_move=f"Start with --data FOLDER, or set {PLACE_VARIABLE} to a folder, to keep it elsewhere.",
        demo=demo,
        machines=count,
        version=request.app.version,
    )


@router.get("")
def get_shop(request: Request, shop: Shop, session: InSession) -> ShopOut:
    """Which shop this is and where its file lies."""
    return _shop(request, shop, session)


@router.post("/demo")
def load_demo(_confirmation: DemoIn, request: Request, shop: Shop, session: ToWrite) -> ShopOut:
    """Put the demo shop in as it was at the start. Only in the demo's own file, or in a shop without machines."""
    if not request.app.state.demo and machines.every(session):
        raise Refusal("shop_in_use", "confirm", str(shop.path))
    harrowfold.load(session, with_year=request.app.state.demo)
    session.flush()
    return _shop(request, shop, session)
