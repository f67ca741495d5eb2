"""What came back: what clients really ate, what they left, and the containers of the house."""
