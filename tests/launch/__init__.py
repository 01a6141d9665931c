"""What starts and stops a bench."""
