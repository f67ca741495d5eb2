"""What is at hand: what is due next, finding anything."""
