"""Planning a batch: from targets and components to grams in every container, and back to what must be cooked."""
