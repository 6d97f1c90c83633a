"""A machine may be put away: kept with all that is said of it, and planned for no more."""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("machine", sa.Column("archived", sa.Boolean, nullable=False, server_default=sa.false()))


def downgrade() -> None:
    raise NotImplementedError("an archived machine has no place in the tables before")
