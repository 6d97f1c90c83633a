"""The passphrase of the shop, and who is signed in."""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "passphrase",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("hash", sa.String, nullable=False),
        sa.Column("secret", sa.LargeBinary, nullable=False),
        sa.CheckConstraint("id = 1"),
    )
    op.create_table(
        "guest",
        sa.Column("key", sa.String, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("looks_only", sa.Boolean, nullable=False),
        sa.Column("begun_s", sa.Integer, nullable=False),
    )


def downgrade() -> None:
    raise NotImplementedError("the tables before know no passphrase")
