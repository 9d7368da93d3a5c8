"""Alembic environment: the connection is handed over by hearthkeep.store.database."""

from alembic import context

from hearthkeep.store.models import Base

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=Base.metadata, transaction_per_migration=True)
with context.begin_transaction():
    context.run_migrations()
