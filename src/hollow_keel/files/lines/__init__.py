"""Lines drawings that come in: DXF and SVG."""
