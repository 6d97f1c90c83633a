"""What is to be done: the list of the day."""

import sqlalchemy as sa
from alembic import op

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "task",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("ask", sa.String, nullable=False),
        sa.Column("machine_id", sa.Integer, nullable=True),
        sa.Column("after", sa.Integer, nullable=True),
        sa.Column("state", sa.String, nullable=False),
        sa.Column("begun", sa.String, nullable=False),
        sa.Column("done", sa.String, nullable=False),
        sa.Column("entry", sa.Integer, nullable=True),
        sqlite_autoincrement=True,
    )


def downgrade() -> None:
    raise NotImplementedError("the tables before know no list of what is to be done")
