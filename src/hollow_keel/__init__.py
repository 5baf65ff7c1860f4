"""Hollow Keel: plans strip-planked and cold-molded hulls."""

__version__ = "0.1.0"
