"""What is at hand: finding anything."""
