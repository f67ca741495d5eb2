"""What a user does: each function opens one transaction, calls the core, saves, and returns a view."""
