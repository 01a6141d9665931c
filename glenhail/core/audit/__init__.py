"""Like for like: what of an output, besides what is tested, differs from its frame and
from the other outputs.
"""
