"""Demo jobs of our own invention."""

NAMES = ("linnet", "pipit", "sedge", "teasel")
