"""What is done to a frame, as rules: steps in words, what differs between two
treatments, whole families of them.
"""
