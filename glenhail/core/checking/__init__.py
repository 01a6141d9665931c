"""Whether a published edition says what its own files say."""
