"""Sets up, starts, stops and tests Yantai. Standard library only: it runs before anything is installed."""
