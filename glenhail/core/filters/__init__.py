"""Filters that measures and methods share."""
