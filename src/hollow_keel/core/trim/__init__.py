"""The line that a hull is trimmed to."""
