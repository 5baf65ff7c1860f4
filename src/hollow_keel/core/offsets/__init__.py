"""The offsets table."""
