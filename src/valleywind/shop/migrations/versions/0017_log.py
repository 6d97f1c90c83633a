"""The log of the shop, with its words to be searched, and pinned set-ups; the changes and jobs that are known so far
stand in the log."""

import json
from collections.abc import Iterator
from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy import Connection

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None

# Changes of these are about the machine that they name.
_OF_A_MACHINE = ("mounted", "boxes_mounted", "dismounted", "boxes_cleared", "machine_", "plate_", "full_set")
_OF_A_JOB = ("found", "in_rack", "out_again")


def upgrade() -> None:
    op.create_table(
        "log",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("at", sa.String, nullable=False),
        sa.Column("by", sa.String, nullable=False),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("machine", sa.String, nullable=False),
        sa.Column("machine_id", sa.Integer, nullable=True),
        sa.Column("job_id", sa.Integer, nullable=True),
        sa.Column("change_id", sa.Integer, nullable=True),
        sa.Column("ask", sa.String, nullable=False),
        sa.Column("train", sa.String, nullable=False),
        sa.Column("outcome", sa.String, nullable=False),
        sa.Column("note", sa.String, nullable=False),
        sa.Column("code", sa.String, nullable=False),
        sa.Column("about", sa.JSON, nullable=False),
        sa.Column("corrects", sa.Integer, nullable=True),
    )
    op.create_index("log_of_machine", "log", ["machine_id", "ask"])
    op.create_index("log_of_kind", "log", ["kind"])
    op.create_index("log_of_machine_kind", "log", ["machine_id", "kind"])
    op.create_index("log_corrected", "log", ["corrects"])
    op.create_index("log_of_change", "log", ["change_id"])
    op.execute("CREATE VIRTUAL TABLE log_words USING fts5(words, content='')")
    op.create_table(
        "pin",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("machine_id", sa.Integer, sa.ForeignKey("machine.id"), nullable=False),
        sa.Column("ask", sa.String, nullable=False),
        sa.Column("train", sa.String, nullable=False),
        sa.UniqueConstraint("machine_id", "ask", "train"),
        sqlite_autoincrement=True,
    )
    connection = op.get_bind()
    known = sorted([*_changes(connection), *_jobs(connection), *_sessions(connection)], key=lambda entry: entry["at"])
    for number, entry in enumerate(known, 1):
        connection.execute(
            sa.text(
                "INSERT INTO log (id, at, by, kind, machine, machine_id, job_id, change_id, ask, train, outcome, note, "
                "code, about) VALUES (:id, :at, '', :kind, :machine, :machine_id, :job_id, :change_id, '', :train, '', "
                "'', :code, :about)"
            ),
            {"id": number, **entry},
        )
        words = " ".join(_flat([entry["machine"], entry["train"], json.loads(entry["about"])]))
        connection.execute(
            sa.text("INSERT INTO log_words (rowid, words) VALUES (:id, :words)"), {"id": number, "words": words}
        )


def _changes(connection: Connection) -> Iterator[dict[str, Any]]:
    numbers: dict[str, int] = {
        name: number for number, name in connection.execute(sa.text("SELECT id, name FROM machine"))
    }
    for change, at, code, about in connection.execute(
        sa.text("SELECT id, at, code, about FROM change ORDER BY id")
    ).all():
        told = json.loads(about)
        named = str(told.get("name", "")) if code.startswith(_OF_A_MACHINE) else ""
        yield {
            "at": at, "kind": "change", "machine": named, "machine_id": numbers.get(named), "job_id": None,
            "change_id": change,
            "train": str(told.get("train", "")) if code == "mounted" else "", "code": code, "about": about,
        }  # fmt: skip


def _jobs(connection: Connection) -> Iterator[dict[str, Any]]:
    rows = connection.execute(
        sa.text(
            "SELECT e.at, e.kind, e.about, e.job_id, job.teeth FROM job_event e JOIN job ON job.id = e.job_id "
            "ORDER BY e.job_id, e.place"
        )
    ).all()
    for at, kind, about, job, teeth in rows:
        if kind in _OF_A_JOB:
            yield _of_a_job(at, kind, job, {"teeth": teeth, **json.loads(about)})


def _sessions(connection: Connection) -> Iterator[dict[str, Any]]:
    rows = connection.execute(
        sa.text("SELECT cutting.begun, job_id, teeth FROM cutting JOIN job ON job.id = cutting.job_id")
    ).all()
    for at, job, teeth in rows:
        yield _of_a_job(at, "begun", job, {"teeth": teeth})


def _of_a_job(at: str, code: str, job: int, about: dict[str, Any]) -> dict[str, Any]:
    return {
        "at": at, "kind": "job", "machine": "", "machine_id": None, "job_id": job, "change_id": None,
        "train": "", "code": code,
        "about": json.dumps(about),
    }  # fmt: skip


def _flat(value: object) -> Iterator[str]:
    if isinstance(value, dict):
        for one in value.values():
            yield from _flat(one)
    elif isinstance(value, list):
        for one in value:
            yield from _flat(one)
    elif value is not None and not isinstance(value, bool):
        yield str(value)


def downgrade() -> None:
    raise NotImplementedError("the tables before know no log")
