"""Tests of the hull."""
