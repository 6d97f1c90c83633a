"""Jobs: wheels to be made, with the sessions in which they are cut and everything that happened in them."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "job",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("teeth", sa.Integer, nullable=False),
        sa.Column("machine", sa.String, nullable=False),
        sa.Column("family_id", sa.Integer),
        sa.Column("begun", sa.String, nullable=False),
        sa.Column("wheel", sa.JSON, nullable=False),
        sa.Column("typed", sa.JSON, nullable=False),
        sa.Column("found", sa.JSON, nullable=False),
        sa.Column("done", sa.String, nullable=False),
        sa.Column("version", sa.Integer, nullable=False, server_default="1"),
        sqlite_autoincrement=True,
    )
    op.create_table(
        "cutting",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("job_id", sa.Integer, nullable=False, unique=True),
        sa.Column("begun", sa.String, nullable=False),
        sa.Column("head", sa.String, nullable=False),
        sa.Column("plan", sa.JSON, nullable=False),
        sqlite_autoincrement=True,
    )
    op.create_table(
        "cutting_event",
        sa.Column("cutting_id", sa.Integer, sa.ForeignKey("cutting.id"), primary_key=True),
        sa.Column("place", sa.Integer, primary_key=True),
        sa.Column("key", sa.String, nullable=False),
        sa.Column("at", sa.String, nullable=False),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("about", sa.JSON, nullable=False),
        sa.Column("by", sa.String, nullable=False),
        sa.UniqueConstraint("cutting_id", "key"),
    )


def downgrade() -> None:
    raise NotImplementedError("these have no place in the tables before")
