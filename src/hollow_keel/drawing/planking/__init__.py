"""Drawings of the planking."""
