"""Simulated outside tools, run as programs of their own.

Invented, and faulty on purpose: each says how.
"""
