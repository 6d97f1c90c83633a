"""Keys by which devices are let in."""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "device_key",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("hash", sa.String, nullable=False, unique=True),
        sa.Column("made_s", sa.Integer, nullable=False),
    )


def downgrade() -> None:
    raise NotImplementedError("the tables before know no keys of devices")
