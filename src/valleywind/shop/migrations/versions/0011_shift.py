"""A wheel may be shifted: this many modules outward on the same pitch circle."""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("wheel", sa.Column("shift", sa.Double, nullable=False, server_default="0"))


def downgrade() -> None:
    raise NotImplementedError("shifts have no place in the tables before")
