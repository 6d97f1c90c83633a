"""Cutters, bar stock, photographs, full sets; machines that are no lathes, with or without wheels."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def _text(name: str, default: str = "") -> sa.Column[str]:
    return sa.Column(name, sa.String, nullable=False, server_default=default)


def _machine() -> sa.Column[int]:
    return sa.Column("machine_id", sa.Integer, sa.ForeignKey("machine.id"), primary_key=True)


def upgrade() -> None:
    with op.batch_alter_table("machine") as machine:
        machine.alter_column("family_id", existing_type=sa.Integer, nullable=True)
        machine.add_column(_text("full_set"))
    op.add_column("wheel", _text("photo"))
    op.create_table(
        "cutter",
        sa.Column("id", sa.Integer, primary_key=True),
        _text("pitch_system"), _text("pitch_value"), _text("pressure_angle_deg"),
        sa.Column("lowest", sa.Integer, nullable=False),
        sa.Column("highest", sa.Integer, nullable=True),
        _text("engraved"), _text("bore_mm", "0"), _text("depth_mm", "0"), _text("condition", "good"),
        sa.Column("count", sa.Integer, nullable=False),
        _text("place"), _text("note"),
    )  # fmt: skip
    op.create_table(
        "bar",
        sa.Column("id", sa.Integer, primary_key=True),
        _text("material"), _text("diameter_mm"), _text("length_mm"), _text("place"), _text("note"),
    )  # fmt: skip
    op.create_table(
        "photo",
        sa.Column("name", sa.String, primary_key=True),
        sa.Column("picture", sa.LargeBinary, nullable=False),
    )
    op.create_table(
        "head",
        _machine(),
        sa.Column("ratio", sa.String, nullable=True),
        sa.Column("sides", sa.JSON, nullable=False),
        sa.Column("direct", sa.JSON, nullable=False),
        _text("gears"),
        sa.Column("geared", sa.Boolean, nullable=False),
        sa.Column("reads_deg", sa.String, nullable=True),
    )
    op.create_table("hobber", _machine(), *(_text(name) for name in ("index", "feed", "differential", "swivel")))
    op.create_table("mill", _machine(), *(_text(name) for name in ("screw", "swing", "pairs")))


def downgrade() -> None:
    raise NotImplementedError("machines without wheels have no place in the table before")
