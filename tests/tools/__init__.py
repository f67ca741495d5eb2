"""Tools that developers run by hand."""
