"""Where a picture will be seen, and what it looks like there."""
