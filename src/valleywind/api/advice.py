"""Which wheel is worth making: an answer in lines, so that it is seen how far the work has come."""

from collections.abc import Callable, Iterator
from itertools import chain
from typing import Any, Generic, TypeVar

from fastapi.responses import StreamingResponse
from pydantic import BaseModel, Field

from valleywind.api.bounds import each_step
from valleywind.core.interrupt import Interruption, OverBudget
from valleywind.wording.refusals import TOO_MUCH

_LINES = "application/x-ndjson"
Result = TypeVar("Result")
Advice = TypeVar("Advice", bound=BaseModel)


class WorthLine(BaseModel, Generic[Advice]):
    """A line of the answer: the share of the work that is done, and at last the advice, or why there is none."""

    share: float = Field(ge=0, le=1)
    advice: Advice | None
    problem: str = Field("", description="Why the work was broken off; empty where it was not")


def in_lines(line: type[WorthLine[Advice]]) -> dict[int | str, dict[str, Any]]:
    """What is said of such an answer in the description of the API."""
    return {200: {"model": line, "content": {_LINES: {}}, "description": "One JSON object a line; this is a line"}}


def describe(document: dict[str, Any]) -> None:
    """Say of every answer in lines what a line is: the framework describes it as one JSON text."""
    for methods in document["paths"].values():
        for operation in methods.values():
            for answer in operation["responses"].values():
                if _LINES in (content := answer.get("content", {})):
                    content[_LINES] = content.pop("application/json")


def advised(steps: Iterator[float | Result], tell: Callable[[Result], Advice]) -> StreamingResponse:
    """The shares of the work as they come, and at last what is told of what was found; each step is bounded.

    Raises Refusal, before the answer begins, what the first step does."""
    first = next(steps)

    def lines() -> Iterator[str]:
        done = 0.0
        try:
            for step in chain([first], each_step(steps)):
                done = step if isinstance(step, float) else 1.0
                advice = None if isinstance(step, float) else tell(step)
                yield WorthLine(share=done, advice=advice).model_dump_json() + "\n"
        except Interruption:
            return
        except OverBudget:
            text = f"{TOO_MUCH.says} {TOO_MUCH.would_do}"
            yield WorthLine[BaseModel](share=done, advice=None, problem=text).model_dump_json() + "\n"

    return StreamingResponse(lines(), media_type=_LINES)
