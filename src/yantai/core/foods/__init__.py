"""Foods: what they hold, what they may be called, whom they are kept from, and which food the words of a line mean."""
