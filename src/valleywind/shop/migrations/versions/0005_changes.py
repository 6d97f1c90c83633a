"""Every change is kept with what takes it back; records carry a version; numbers of records are never used twice."""

import re

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

_VERSIONED = ("machine", "wheel", "cutter", "bar")


def upgrade() -> None:
    for table in ("wheel_family", *_VERSIONED):
        _never_reuse_numbers(table)
    for table in _VERSIONED:
        op.add_column(table, sa.Column("version", sa.Integer, nullable=False, server_default="1"))
    op.create_table(
        "change",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("at", sa.String, nullable=False),
        sa.Column("code", sa.String, nullable=False),
        sa.Column("about", sa.JSON, nullable=False),
        sa.Column("rows", sa.JSON, nullable=False),
        sa.Column("undone_by", sa.Integer, nullable=True),
        sa.Column("undoes", sa.Integer, nullable=True),
        sqlite_autoincrement=True,
    )
    # "Vwnd": tells a shop's file from another program's.
    op.execute("PRAGMA application_id = 1450667620")


def _never_reuse_numbers(table: str) -> None:
    """Make the table anew with AUTOINCREMENT, all else as it stands. Foreign keys are off while tables are made."""
    connection = op.get_bind()
    made = connection.scalar(
        sa.text("SELECT sql FROM sqlite_master WHERE type = 'table' AND name = :name"), {"name": table}
    )
    columns = [row[1] for row in connection.execute(sa.text(f"PRAGMA table_info({table})"))]
    renamed = re.sub(rf'^CREATE TABLE "?{table}"?', f"CREATE TABLE {table}_new", str(made))
    keyed = re.sub(r"\bid INTEGER NOT NULL", "id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT", renamed, count=1)
    op.execute(re.sub(r",\s*PRIMARY KEY \(id\)", "", keyed))
    names = ", ".join(f'"{column}"' for column in columns)
    op.execute(f"INSERT INTO {table}_new ({names}) SELECT {names} FROM {table}")
    op.drop_table(table)
    op.rename_table(f"{table}_new", table)


def downgrade() -> None:
    raise NotImplementedError("what was changed cannot be told any more")
