"""The rack: wheels of any family, in any state, with or without a machine, recognised or not."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None

_COLUMNS = "id, machine_id, teeth, count, place, note"


def upgrade() -> None:
    op.add_column("wheel_family", sa.Column("hub_mm", sa.String, nullable=False, server_default="0"))
    op.create_table(
        "wheel_new",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("family_id", sa.Integer, sa.ForeignKey("wheel_family.id"), nullable=True),
        sa.Column("machine_id", sa.Integer, sa.ForeignKey("machine.id"), nullable=True),
        sa.Column("teeth", sa.Integer, nullable=False),
        sa.Column("count", sa.Integer, nullable=False),
        sa.Column("condition", sa.String, nullable=False),
        sa.Column("material", sa.String, nullable=False),
        sa.Column("place", sa.String, nullable=False),
        sa.Column("note", sa.String, nullable=False),
        sa.Column("measured", sa.JSON, nullable=False),
        sa.CheckConstraint("count >= 0"),
    )
    op.execute(
        f"INSERT INTO wheel_new ({_COLUMNS}, family_id, condition, material, measured) "
        "SELECT w.id, w.machine_id, w.teeth, w.count, w.place, w.note, m.family_id, 'good', '', '{}' "
        "FROM wheel w JOIN machine m ON m.id = w.machine_id"
    )
    op.drop_table("wheel")
    op.rename_table("wheel_new", "wheel")


def downgrade() -> None:
    raise NotImplementedError("wheels without a machine have no place in the table before")
