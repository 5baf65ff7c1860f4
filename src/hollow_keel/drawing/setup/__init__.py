"""Drawings of the set-up."""
