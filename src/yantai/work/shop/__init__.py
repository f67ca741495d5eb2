"""Shopping for batches: what is to be bought of each food, where it stands in the shop, in which packs."""
