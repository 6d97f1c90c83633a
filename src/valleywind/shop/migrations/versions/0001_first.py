"""Machines, quadrants, wheel families, wheels, what is mounted."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "wheel_family",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String, nullable=False, unique=True),
        sa.Column("pitch_system", sa.String, nullable=False),
        sa.Column("pitch_value", sa.String, nullable=False),
        sa.Column("pressure_angle_deg", sa.String, nullable=False),
        sa.Column("bore_mm", sa.String, nullable=False),
        sa.Column("key_mm", sa.String, nullable=False),
        sa.Column("face_mm", sa.String, nullable=False),
        sa.Column("addendum", sa.String, nullable=False),
    )
    op.create_table(
        "machine",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("slug", sa.String, nullable=False, unique=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("note", sa.String, nullable=False),
        sa.Column("family_id", sa.Integer, sa.ForeignKey("wheel_family.id"), nullable=False),
    )
    op.create_table(
        "lathe",
        sa.Column("machine_id", sa.Integer, sa.ForeignKey("machine.id"), primary_key=True),
        sa.Column("screw_lead_mm", sa.String, nullable=False),
        sa.Column("screw_stated", sa.String, nullable=False),
        sa.Column("first_ratio", sa.String, nullable=False),
        sa.Column("first_shaft_turns", sa.String, nullable=False),
        sa.Column("screw_turns_right_hand", sa.String, nullable=False),
        sa.Column("reverse_lever", sa.Boolean, nullable=False),
    )
    op.create_table(
        "quadrant",
        sa.Column("machine_id", sa.Integer, sa.ForeignKey("machine.id"), primary_key=True),
        *[
            sa.Column(name, sa.Double, nullable=False)
            for name in (
                "first_x_mm", "first_y_mm", "swing_low_deg", "swing_high_deg",
                "boss_first_mm", "boss_stud_mm", "boss_last_mm", "gap_mm",
            )
        ],
        sa.Column("studs", sa.Integer, nullable=False),
        sa.Column("cover_mm", sa.JSON, nullable=True),
    )  # fmt: skip
    op.create_table(
        "slot",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("machine_id", sa.Integer, sa.ForeignKey("quadrant.machine_id"), nullable=False),
        sa.Column("place", sa.Integer, nullable=False),
        sa.Column("offset_deg", sa.Double, nullable=False),
        sa.Column("nearest_mm", sa.Double, nullable=False),
        sa.Column("farthest_mm", sa.Double, nullable=False),
        sa.UniqueConstraint("machine_id", "place"),
        sa.CheckConstraint("nearest_mm < farthest_mm"),
    )
    op.create_table(
        "wheel",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("machine_id", sa.Integer, sa.ForeignKey("machine.id"), nullable=False),
        sa.Column("teeth", sa.Integer, nullable=False),
        sa.Column("count", sa.Integer, nullable=False),
        sa.Column("place", sa.String, nullable=False),
        sa.Column("note", sa.String, nullable=False),
        sa.UniqueConstraint("machine_id", "teeth"),
        sa.CheckConstraint("count >= 0"),
    )
    op.create_table(
        "mounted",
        sa.Column("machine_id", sa.Integer, sa.ForeignKey("machine.id"), primary_key=True),
        sa.Column("train", sa.String, nullable=False),
    )


def downgrade() -> None:
    for table in ("mounted", "wheel", "slot", "quadrant", "lathe", "machine", "wheel_family"):
        op.drop_table(table)
