"""Entries of the log that came with a file, aside while the taking in of that file is undone; what holds the work of
the day."""

import sqlalchemy as sa
from alembic import op

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "log_aside",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("entry", sa.JSON, nullable=False),
    )
    op.add_column("task", sa.Column("held", sa.String, nullable=False, server_default=""))


def downgrade() -> None:
    raise NotImplementedError("the tables before keep no entries aside, and know not what holds the work")
