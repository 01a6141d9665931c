"""Running programs of the outside world: filled-in command lines, limits, what they
told, the machine they ran on.
"""
