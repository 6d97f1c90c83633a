"""A mill's record has its table's size and travel, its saddle, arbors, swivelling head and where the pairs lie."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    for name in ("swivel", "pairs_at", "table_size", "travel", "saddle", "arbors", "head_at"):
        op.add_column("mill", sa.Column(name, sa.String, nullable=False, server_default=""))


def downgrade() -> None:
    raise NotImplementedError("these have no place in the tables before")
