"""Run by Alembic, inside the connection that `shop.store.migrate` hands over."""

from alembic import context

from valleywind.shop.models import Base

context.configure(
    connection=context.config.attributes["connection"], target_metadata=Base.metadata, render_as_batch=True
)
with context.begin_transaction():
    context.run_migrations()
