"""The log of the shop, with its words to be searched; the changes that are known so far stand in it."""

import json

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None

# Changes of these are about the machine that they name.
_OF_A_MACHINE = ("mounted", "boxes_mounted", "dismounted", "boxes_cleared", "machine_", "plate_", "full_set")


def upgrade() -> None:
    op.create_table(
        "log",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("at", sa.String, nullable=False),
        sa.Column("by", sa.String, nullable=False),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("machine", sa.String, nullable=False),
        sa.Column("ask", sa.String, nullable=False),
        sa.Column("train", sa.String, nullable=False),
        sa.Column("outcome", sa.String, nullable=False),
        sa.Column("note", sa.String, nullable=False),
        sa.Column("code", sa.String, nullable=False),
        sa.Column("about", sa.JSON, nullable=False),
        sa.Column("corrects", sa.Integer, nullable=True),
    )
    op.create_index("log_of_ask", "log", ["machine", "ask"])
    op.create_index("log_corrected", "log", ["corrects"])
    op.execute("CREATE VIRTUAL TABLE log_words USING fts5(words, content='')")
    connection = op.get_bind()
    rows = connection.execute(sa.text("SELECT at, code, about FROM change ORDER BY id")).all()
    for number, (at, code, about) in enumerate(rows, 1):
        told = json.loads(about)
        named = str(told.get("name", "")) if code.startswith(_OF_A_MACHINE) else ""
        train = told.get("train", "") if code == "mounted" else ""
        connection.execute(
            sa.text(
                "INSERT INTO log (id, at, by, kind, machine, ask, train, outcome, note, code, about) "
                "VALUES (:id, :at, '', 'change', :machine, '', :train, '', '', :code, :about)"
            ),
            {"id": number, "at": at, "machine": named, "train": train, "code": code, "about": about},
        )
        words = f"{named} {train}"
        connection.execute(
            sa.text("INSERT INTO log_words (rowid, words) VALUES (:id, :words)"), {"id": number, "words": words}
        )


def downgrade() -> None:
    raise NotImplementedError("the tables before know no log")
