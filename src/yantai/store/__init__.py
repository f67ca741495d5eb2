"""PostgreSQL through SQLAlchemy: tables, row-level security by workspace, transactions."""
