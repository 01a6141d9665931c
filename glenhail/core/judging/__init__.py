"""Blind judging: what is shown, what the answers carry, and where numbers say other."""
