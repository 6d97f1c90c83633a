"""Every failure as problem+json: what, at which field, and what would do instead (RFC 9457)."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field
from sqlalchemy.exc import IntegrityError
from starlette.exceptions import HTTPException

from valleywind.core.interrupt import Interruption, OverBudget
from valleywind.core.refusal import Refusal
from valleywind.shop.file_trouble import ShopFileError
from valleywind.wording import refusals, shop_file
from valleywind.wording.refusal_form import Notice

MEDIA_TYPE = "application/problem+json"


class FieldProblem(BaseModel):
    """What is wrong at one field."""

    field: str = Field(examples=["ask"])
    value: str = Field(examples=["M13"])
    code: str = Field(examples=["no_coarse_size"])
    says: str = Field(examples=["M13 is not a coarse size of the metric series."])
    would_do: str = Field(examples=["Add the pitch, like M13x1.5, or take a size nearby."])
    job: int | None = Field(None, description="The job that stands in the way, where one does")


class Side(BaseModel):
    """One field that two people changed: what you typed, and what stands there now."""

    field: str = Field(examples=["count"])
    yours: str
    theirs: str


class Problem(BaseModel):
    """A failure in the form of RFC 9457, with the fields it is about and, for asks, the nearest readings."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[FieldProblem] = []
    understood: list[str] = Field([], description="Pieces of the ask that were understood, with their meaning")
    left_over: list[str] = Field([], description="Words of the ask that were not understood")
    nearest: list[str] = Field([], description="Asks near to it that would be understood")
    sides: list[Side] = Field([], description="Where somebody else changed the same meanwhile: both sides")
    versions: dict[str, int] = Field({}, description="The records as they are now; send these to keep your side")


class Stale(Exception):
    """A write that was made up before somebody else's: both sides of it, and the versions that there are now."""

    def __init__(self, sides: Sequence[Side], versions: dict[str, int]) -> None:
        super().__init__("changed meanwhile")
        self.sides, self.versions = list(sides), versions


class NotUnderstood(Exception):
    """An ask that could not be read, with what was made of it."""

    def __init__(self, refused: Refusal, understood: list[str], left_over: list[str], nearest: list[str]) -> None:
        super().__init__(str(refused))
        self.refused, self.understood, self.left_over, self.nearest = refused, understood, left_over, nearest


_MISSING = {"no_such_machine", "no_such_photo", "no_such_change", "no_such_job", "no_session", "no_such_device",
            "no_such_entry", "no_such_copy", "no_such_pin", "no_such_stand_in", "no_such_task"}  # fmt: skip
# Another saved first.
_OVERTAKEN = {"session_moved", "key_used"}
# What only a request that sends something is answered.
_OF_WRITES = ("409", "413")
_MEDIA = {MEDIA_TYPE: {"schema": {"$ref": f"#/components/schemas/{Problem.__name__}"}}}


def _response(description: str) -> dict[str, Any]:
    """A failure as the API's description has it: by its name, since a record of its own for each of them at each
    address would make the start long."""
    return {"description": description, "content": _MEDIA}


RESPONSES: dict[int | str, dict[str, Any]] = {
    404: _response("No such machine"),
    409: _response("Somebody else changed it meanwhile; `sides` has both"),
    413: _response("More was sent than is read"),
    422: _response("A field cannot be used; `errors` says which, why, and what would do"),
    503: _response("The shop's file cannot be used now, or the work was given up"),
}


def field_problem(refused: Refusal) -> FieldProblem:
    refusal, job = refusals.say(refused), refused.quantities.get("job")
    return FieldProblem(
        field=refused.field,
        value=_as_text(refused.value),
        code=refused.code,
        says=refusal.says,
        would_do=refusal.would_do,
        job=job if isinstance(job, int) else None,
    )


def _as_text(value: object) -> str:
    """A value as it can be sent back: not too long, without half characters."""
    try:
        text = "" if value is None else str(value)
    except ValueError:  # a whole number of thousands of digits
        text = "…"
    return text[:80].encode("utf-8", "replace").decode()


def _answer(problem: Problem) -> JSONResponse:
    return JSONResponse(problem.model_dump(), problem.status, media_type=MEDIA_TYPE)


def answer(status: int, title: str, refusal: Notice) -> JSONResponse:
    """A failure that is about no field."""
    return _answer(Problem(title=title, status=status, detail=f"{refusal.says} {refusal.would_do}"))


@dataclass(frozen=True)
class Failure:
    """The answer to what was thrown; `expected` where it is known how that comes about."""

    response: JSONResponse
    expected: bool


def unexpected(error: Exception) -> Failure:
    """The answer to whatever was thrown where nothing else took it."""
    if isinstance(error, ShopFileError):
        return Failure(answer(503, "The shop’s file", shop_file.say(error.trouble, error.path, error.detail)), True)
    if isinstance(error, Interruption):
        return Failure(answer(503, "Given up", refusals.GIVEN_UP), True)
    if isinstance(error, OverBudget):
        return Failure(answer(422, "Too much", refusals.TOO_MUCH), True)
    if isinstance(error, UnicodeEncodeError):
        return Failure(answer(422, "Cannot be used", refusals.HALF_CHARACTER), True)
    if isinstance(error, IntegrityError):
        return Failure(answer(409, "Changed meanwhile", refusals.CLASH), False)
    return Failure(answer(500, "Went wrong", refusals.WENT_WRONG), False)


def install(app: FastAPI) -> None:
    """Make every failure of the app a problem+json answer, and describe it so."""

    plainly = app.openapi

    def openapi() -> dict[str, Any]:
        document = plainly()
        schemas = document["components"]["schemas"]
        if Problem.__name__ not in schemas:
            described = Problem.model_json_schema(ref_template="#/components/schemas/{model}")
            schemas |= described.pop("$defs", {}) | {Problem.__name__: described}
            document["components"]["schemas"] = dict(sorted(schemas.items()))
        for methods in document["paths"].values():
            for method, operation in methods.items():
                for status in _OF_WRITES if method == "get" else ():
                    operation["responses"].pop(status, None)
        return document

    app.openapi = openapi  # type: ignore[method-assign]

    @app.exception_handler(Refusal)
    def refused(_request: Request, error: Refusal) -> JSONResponse:
        problem = field_problem(error)
        status = 404 if error.code in _MISSING else 409 if error.code in _OVERTAKEN else 422
        return _answer(
            Problem(
                title="Cannot be used",
                status=status,
                detail=f"{problem.says} {problem.would_do}",
                errors=[problem, *map(field_problem, error.others)],
            )
        )

    @app.exception_handler(NotUnderstood)
    def not_understood(_request: Request, error: NotUnderstood) -> JSONResponse:
        problem = field_problem(error.refused)
        return _answer(
            Problem(
                title="Not understood", status=422, detail=f"{problem.says} {problem.would_do}", errors=[problem],
                understood=error.understood, left_over=error.left_over, nearest=error.nearest,
            )
        )  # fmt: skip

    @app.exception_handler(RequestValidationError)
    def invalid(_request: Request, error: RequestValidationError) -> JSONResponse:
        problems = [
            FieldProblem(
                field=".".join(str(p) for p in e["loc"][1:]) or str(e["loc"][0]),
                value=_as_text(e.get("input", "")),
                code=e["type"],
                says=f"{_as_text(e['msg'])}.",
                would_do="See the API’s description of this field.",
            )
            for e in error.errors()
        ]
        detail = "; ".join(f"{f.field}: {f.says}" for f in problems)
        return _answer(Problem(title="Not as described", status=422, detail=detail, errors=problems))

    @app.exception_handler(Stale)
    def stale(_request: Request, error: Stale) -> JSONResponse:
        refusal = refusals.CHANGED_MEANWHILE
        return _answer(
            Problem(
                title="Changed meanwhile", status=409, detail=f"{refusal.says} {refusal.would_do}", sides=error.sides,
                versions=error.versions,
            )
        )  # fmt: skip

    @app.exception_handler(HTTPException)
    def http(_request: Request, error: HTTPException) -> JSONResponse:
        if error.status_code == 400:
            return answer(400, "Not readable", refusals.NOT_READABLE)
        return _answer(Problem(title=str(error.detail), status=error.status_code, detail=f"{error.detail}."))
