"""Widgets that paint drawings and hulls."""
