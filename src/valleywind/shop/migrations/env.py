"""Run by Alembic, inside the transaction that `shop.store.migrate` has begun: all of an upgrade, or nothing of it."""

from alembic import context

from valleywind.shop.models import Base

context.configure(
    connection=context.config.attributes["connection"],
    target_metadata=Base.metadata,
    render_as_batch=True,
    transactional_ddl=True,
)
context.run_migrations()
