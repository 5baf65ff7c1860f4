"""Drawings of the lines: of a table on its way in, of the hull, of changes."""
