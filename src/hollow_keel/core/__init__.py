"""Numbers only: no interface, no files, no printing."""
