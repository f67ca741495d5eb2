"""The demo scenario: a made-up coach in a made-up town."""
