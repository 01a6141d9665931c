"""Statistics that measures and whole-study questions share."""
