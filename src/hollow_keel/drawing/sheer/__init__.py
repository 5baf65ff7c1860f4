"""Drawings of the sheer and the ends."""
