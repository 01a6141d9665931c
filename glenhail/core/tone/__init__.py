"""How an output's brightness and colour differ from its frame's: measured on matched,
heavily averaged areas.
"""
