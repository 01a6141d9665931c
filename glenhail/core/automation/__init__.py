"""What a bench tells other programs by itself."""
