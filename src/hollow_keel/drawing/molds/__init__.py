"""Drawings of the molds."""
