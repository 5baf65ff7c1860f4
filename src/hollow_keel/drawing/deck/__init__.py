"""Drawings of the deck."""
