"""Open formats in and out: recipes as schema.org JSON-LD and CSV, foods as CSV. They know the core only."""
