"""The containers of the house: how many there are, where they are, and whether they suffice."""
