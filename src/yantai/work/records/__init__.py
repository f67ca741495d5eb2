"""What is kept about one client: given to them as files, or erased."""
