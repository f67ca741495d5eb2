"""What is bought: packs that cover a need."""
