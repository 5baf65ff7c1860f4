"""Drawings of the veneers."""
