"""The settings of a kitchen: what it counts by, its spoons and vessels."""
