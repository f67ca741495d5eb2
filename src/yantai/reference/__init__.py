"""Shipped food, yield, measure, shelf-life and safety data; see PROVENANCE.md."""
