"""A build held against its last release: rules of what may not become worse."""
