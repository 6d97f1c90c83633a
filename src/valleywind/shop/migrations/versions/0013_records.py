"""What a head, a hobber or a mill has on record is kept as it is typed, in one table for whatever a machine may have.

Changes that were noted before are told in the new table too, so that they can still be undone.
"""

import json
from collections.abc import Mapping
from fractions import Fraction
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None

_KEPT = "SELECT * FROM {}"


def upgrade() -> None:
    file = op.get_bind()
    op.create_table(
        "record",
        sa.Column("machine_id", sa.Integer, sa.ForeignKey("machine.id"), primary_key=True),
        sa.Column("part", sa.String, primary_key=True),
        sa.Column("typed", sa.JSON, nullable=False),
    )
    insert = sa.text("INSERT INTO record (machine_id, part, typed) VALUES (:machine_id, :part, :typed)")
    for part in ("head", "hobber", "mill"):
        for row in file.execute(sa.text(_KEPT.format(part))).mappings().all():
            file.execute(insert, _record(part, dict(row)))
        op.drop_table(part)
    for number, noted in file.execute(sa.text("SELECT id, rows FROM change")).all():
        rows = json.loads(noted)
        if any(row[0] in ("head", "hobber", "mill") for row in rows):
            changed = {"id": number, "rows": json.dumps([_told_anew(*row) for row in rows])}
            file.execute(sa.text("UPDATE change SET rows = :rows WHERE id = :id"), changed)


def _told_anew(table: str, key: list[Any], before: Mapping[str, Any] | None, after: Mapping[str, Any] | None) -> Any:
    if table not in ("head", "hobber", "mill"):
        return [table, key, before, after]
    return ["record", [*key, table], *(None if row is None else _record(table, row) for row in (before, after))]


def _record(part: str, row: Mapping[str, Any]) -> dict[str, Any]:
    typed: dict[str, Any] = {name: text for name, text in row.items() if name != "machine_id"}
    if part == "head":
        typed = _head(row)
    for old, new in (("table_turns", "table"), ("table_size", "table")):
        if old in typed:
            typed[new] = typed.pop(old)
    return {"machine_id": row["machine_id"], "part": part, "typed": json.dumps(typed)}


def _head(row: Mapping[str, Any]) -> dict[str, Any]:
    """A head as it would be typed; its figures were kept as numbers."""
    sides = json.loads(row["sides"]) if isinstance(row["sides"], str) else row["sides"]
    direct = json.loads(row["direct"]) if isinstance(row["direct"], str) else row["direct"]
    return {
        "ratio": _spelled(row["ratio"]) if row["ratio"] is not None else "",
        "plates": " / ".join(" ".join(_circle(*circle) for circle in side) for side in sides or ()),
        "direct": " ".join(map(str, direct or ())),
        "gears": row["gears"] or "",
        "geared": bool(row["geared"]),
        "reads": _angle(Fraction(row["reads_deg"])) if row["reads_deg"] is not None else "",
    }


def _circle(holes: float, diameter: float | None = None) -> str:
    if not diameter:
        return str(int(holes))
    return f"{int(holes)}@{_spelled(Fraction(diameter).limit_denominator(10**6))}"


def _angle(degrees: Fraction) -> str:
    for times, sign in ((1, "°"), (60, "'"), (3600, '"')):
        if (degrees * times).denominator == 1:
            return f"{degrees * times}{sign}"
    return f"{_spelled(degrees)}°"


def _spelled(number: str | Fraction) -> str:
    """As a decimal where it is one of a few places, else as a fraction."""
    value = Fraction(number)
    for places in range(10):
        if (value * 10**places).denominator == 1:
            return f"{float(value):.{places}f}"
    return str(value)


def downgrade() -> None:
    raise NotImplementedError("records as typed have no place in the tables before")
