"""The log of the work: what was done, how fast it goes, when it will be done."""
