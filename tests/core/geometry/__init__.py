"""Tests of the geometry."""
