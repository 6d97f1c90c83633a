"""Whether every value in the shop's file is one of its column: looked at where what was read made no sense."""

import json
from fractions import Fraction
from typing import Any, get_args, get_origin

from sqlalchemy import JSON, Boolean, Column, Float, Integer, LargeBinary, select
from sqlalchemy.orm import Session

from valleywind.shop import job_choices, jobs
from valleywind.shop.cutting_plan import plan_of
from valleywind.shop.models import Base, CuttingRow, Exact, JobRow, OneOf, RecordRow


def is_sound(session: Session) -> bool:
    """Whether all of it can be read: numbers are numbers, words are those that there are, lists are lists."""
    connection = session.connection()
    for mapper in Base.registry.mappers:
        hints = mapper.class_.__annotations__
        for column in mapper.columns:
            read = f'SELECT DISTINCT "{column.name}" FROM "{mapper.local_table}"'
            if isinstance(column.type, LargeBinary):
                continue
            shape = _shape(hints.get(column.name))
            if not all(_fits(value, column, shape) for (value,) in connection.exec_driver_sql(read)):
                return False
    return _is_read(session)


def _is_read(session: Session) -> bool:
    """Whether what is kept of jobs and sessions as a whole has its parts."""
    try:
        for job in session.scalars(select(JobRow)):
            for read in (jobs.family_of, jobs.lead_of, jobs.screw_of):
                read(job)
            job_choices.read(job.typed)
        for record in session.scalars(select(RecordRow)):
            if not all(isinstance(value, str | bool) for value in record.typed.values()):
                return False
        for cutting in session.scalars(select(CuttingRow)):
            plan_of(cutting)
    except (ValueError, TypeError, LookupError, ArithmeticError):
        return False
    return True


def _shape(hint: Any) -> type | None:
    """What stands in a column of JSON: a list or a dict; None where that is not said."""
    of = next((a for a in get_args(hint) or ()), None)
    options = [get_origin(one) for one in (get_args(of) if get_origin(of) not in (list, dict) else (of,))]
    return next((one for one in options if one in (list, dict)), None)


def _fits(value: Any, column: Column[Any], shape: type | None) -> bool:
    if value is None:
        return bool(column.nullable)
    try:
        match column.type:
            case Integer() | Boolean():
                return isinstance(value, int)
            case Float():
                return isinstance(value, int | float)
            case JSON():
                read = json.loads(value)
                return isinstance(read, shape or object) or (read is None and bool(column.nullable))
            case OneOf():
                return value in column.type.words
            case Exact():
                Fraction(str(value))
        return isinstance(value, str)
    except (TypeError, ValueError, ZeroDivisionError):
        return False
