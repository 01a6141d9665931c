"""What the eye is shown beyond a picture as it is: planes of it, and differences."""
