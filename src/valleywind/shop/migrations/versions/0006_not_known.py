"""Parts of a quadrant one by one, turning senses and the pitch of wheels may be unknown; examples are marked."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

_MEASURES = (
    "first_x_mm", "first_y_mm", "swing_low_deg", "swing_high_deg", "boss_first_mm", "boss_stud_mm", "boss_last_mm",
)  # fmt: skip


def upgrade() -> None:
    with op.batch_alter_table("quadrant") as quadrant:
        for name in _MEASURES:
            quadrant.alter_column(name, existing_type=sa.Double, nullable=True)
        quadrant.alter_column("studs", existing_type=sa.Integer, nullable=True)
        quadrant.add_column(sa.Column("apart_mm", sa.Double, nullable=True))
        quadrant.add_column(sa.Column("goes_on", sa.JSON, nullable=False, server_default="[]"))
        quadrant.add_column(sa.Column("not_on", sa.JSON, nullable=False, server_default="[]"))
        quadrant.add_column(sa.Column("sources", sa.JSON, nullable=False, server_default="{}"))
    # Until now a record without a cover was of a quadrant that has none.
    op.execute("UPDATE quadrant SET cover_mm = '[]' WHERE cover_mm IS NULL OR cover_mm = 'null'")
    with op.batch_alter_table("lathe") as lathe:
        for name in ("first_shaft_turns", "screw_turns_right_hand"):
            lathe.alter_column(name, existing_type=sa.String, nullable=True)
    op.add_column("machine", sa.Column("example", sa.Boolean, nullable=False, server_default=sa.false()))


def downgrade() -> None:
    raise NotImplementedError("what is not known has no place in the tables before")
