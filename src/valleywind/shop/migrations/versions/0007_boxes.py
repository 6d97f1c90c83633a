"""A hobber has boxes for change wheels, and more on its record; what is mounted in each box."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

_USUAL = {"table_turns": "", "feeds": "down", "taken": "after", "largest": "", "travel": "", "between": ""}


def _key() -> list[sa.Column[object]]:
    return [
        sa.Column("machine_id", sa.Integer, sa.ForeignKey("machine.id"), primary_key=True),
        sa.Column("box", sa.String, primary_key=True),
    ]


def upgrade() -> None:
    for name, usual in _USUAL.items():
        op.add_column("hobber", sa.Column(name, sa.String, nullable=False, server_default=usual))
    op.create_table(
        "gearbox",
        *_key(),
        sa.Column("quadrant", sa.JSON, nullable=False),
        sa.Column("turns", sa.String, nullable=False, server_default=""),
        sa.Column("lever", sa.Boolean, nullable=False, server_default=sa.false()),
        sa.Column("posts", sa.String, nullable=False, server_default=""),
    )
    op.create_table(
        "box_mounted",
        *_key(),
        sa.Column("train", sa.String, nullable=False),
        sa.Column("setting", sa.String, nullable=False, server_default=""),
    )


def downgrade() -> None:
    raise NotImplementedError("boxes have no place in the tables before")
