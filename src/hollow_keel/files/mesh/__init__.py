"""Scanned hulls that come in: STL, OBJ, PLY."""
