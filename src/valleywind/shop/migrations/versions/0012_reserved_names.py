"""A machine called like a word of the program's addresses gets a short name that can be reached."""

import json

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None

# As they stood at this revision.
_WORDS = (
    "backlash", "calipers", "chart", "constants", "devices", "disc", "examples", "fields", "materials", "methods",
    "new", "plate", "preview", "reading", "rolling", "ways",
)  # fmt: skip


def upgrade() -> None:
    file = op.get_bind()
    taken = set(file.scalars(sa.text("SELECT slug FROM machine")))
    for word in _WORDS:
        if word not in taken:
            continue
        slug = next(f"{word}-{n}" for n in range(2, len(taken) + 3) if f"{word}-{n}" not in taken)
        taken.add(slug)
        names = {"old": word, "new": slug}
        file.execute(sa.text("UPDATE machine SET slug = :new WHERE slug = :old"), names)
        file.execute(sa.text("UPDATE job SET machine = :new WHERE machine = :old"), names)
        file.execute(sa.text("UPDATE cutting SET head = :new WHERE head = :old"), names)
        for number, typed in file.execute(sa.text("SELECT id, typed FROM job")).all():
            choices = json.loads(typed)
            if choices.get("head") == word:
                kept = {"typed": json.dumps(choices | {"head": slug}), "id": number}
                file.execute(sa.text("UPDATE job SET typed = :typed WHERE id = :id"), kept)


def downgrade() -> None:
    raise NotImplementedError("the names before cannot be reached")
