"""A study's plan as an open file, and carrying one out without a server."""
