"""Demo jobs of our own invention."""
