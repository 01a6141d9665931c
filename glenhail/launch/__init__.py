"""Starting and stopping a bench on one machine: database, server, workers."""
