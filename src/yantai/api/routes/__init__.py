"""One module per noun."""
