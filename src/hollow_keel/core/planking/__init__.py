"""Strips over the hull."""
