"""Alembic migrations, run by `yantai.store.migrate`."""
