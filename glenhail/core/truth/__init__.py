"""Truths that are made from what was recorded."""
