"""Lathes with levers: first-shaft ratios, a gearbox, fixed wheels and pairs, apron feeds, thread dials."""

import json

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None

_LISTS = ("first_steps", "box_steps", "first_drivers", "last_driven", "pairs", "dials")


def upgrade() -> None:
    with op.batch_alter_table("lathe") as lathe:
        for name in _LISTS:
            lathe.add_column(sa.Column(name, sa.JSON, nullable=False, server_default="[]"))
        lathe.add_column(sa.Column("screw_hand", sa.String, nullable=False, server_default="right"))
        lathe.add_column(sa.Column("feed_along_mm", sa.String, nullable=True))
        lathe.add_column(sa.Column("feed_across_mm", sa.String, nullable=True))
    connection = op.get_bind()
    for machine, ratio in connection.execute(sa.text("SELECT machine_id, first_ratio FROM lathe")).all():
        connection.execute(
            sa.text("UPDATE lathe SET first_steps = :steps WHERE machine_id = :machine"),
            {"steps": json.dumps([[ratio, ratio]]), "machine": machine},
        )
    with op.batch_alter_table("lathe") as lathe:
        lathe.drop_column("first_ratio")
    op.add_column("mounted", sa.Column("setting", sa.String, nullable=False, server_default=""))


def downgrade() -> None:
    op.drop_column("mounted", "setting")
    with op.batch_alter_table("lathe") as lathe:
        lathe.add_column(sa.Column("first_ratio", sa.String, nullable=False, server_default="1"))
        for name in (*_LISTS, "screw_hand", "feed_along_mm", "feed_across_mm"):
            lathe.drop_column(name)
