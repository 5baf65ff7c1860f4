"""Drawings on paper: pages, full-size tiles, PDF and SVG."""
