"""The core's subcommands, one file for each kind of work."""
