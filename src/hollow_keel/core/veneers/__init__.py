"""Layers of veneer: how each lies on the hull by itself, and what has to be taken off it."""
