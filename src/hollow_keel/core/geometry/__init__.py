"""Curves, the tensor surface and its metric, geodesic fronts, polylines."""
