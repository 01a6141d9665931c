"""The sample material."""
