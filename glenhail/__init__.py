"""Glenhail: line up, measure, compare and publish pictures made by processing tools."""

__version__ = "0.1.0"
