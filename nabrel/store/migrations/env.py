"""Alembic's environment: runs on the connection that the application opened."""

from alembic import context

from nabrel.store.tables import Base

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=Base.metadata, render_as_batch=True)
with context.begin_transaction():
    context.run_migrations()
