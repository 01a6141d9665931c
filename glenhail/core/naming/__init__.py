"""Whose output is this file? From its name, its folder, its size and what it shows."""
