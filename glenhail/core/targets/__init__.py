"""Test targets painted by rule: what they show is known to the last digit, and they are
found again in a photograph.
"""
