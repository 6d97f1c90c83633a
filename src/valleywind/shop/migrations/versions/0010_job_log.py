"""What happened with a job is only added to: figures found at its steps, what was chosen, that it is in the rack."""

import json

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    log = op.create_table(
        "job_event",
        sa.Column("job_id", sa.Integer, primary_key=True),
        sa.Column("place", sa.Integer, primary_key=True),
        sa.Column("at", sa.String, nullable=False),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("about", sa.JSON, nullable=False),
    )
    known = op.get_bind().execute(sa.text("SELECT id, begun, typed, found, done FROM job")).all()
    for number, begun, typed, figures, done in known:
        happened = [(begun, "chosen", {"typed": json.loads(typed)})]
        happened += sorted(
            (one["at"], "found", {"step": step, "figure": one["figure"], "done": one["done"]})
            for step, one in json.loads(figures).items()
        )
        happened += [(done, "in_rack", {})] if done else []
        for place, (at, kind, about) in enumerate(happened):
            op.execute(log.insert().values(job_id=number, place=place, at=at, kind=kind, about=about))
    with op.batch_alter_table("job") as job:
        job.drop_column("found")


def downgrade() -> None:
    raise NotImplementedError("these have no place in the tables before")
