"""Foods: the reference's and the kitchen's own, their labels, measures and packs."""
