"""The plan of a batch looked at: ways out, reach, days, beside another, from a document."""
