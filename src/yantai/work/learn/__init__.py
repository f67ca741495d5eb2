"""What the kitchen has learned of its yields."""
