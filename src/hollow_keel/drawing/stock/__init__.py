"""Drawings of the stock."""
