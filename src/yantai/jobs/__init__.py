"""Long work, done by worker processes that share a queue in PostgreSQL."""
