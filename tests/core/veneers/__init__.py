"""Tests of the veneers."""
