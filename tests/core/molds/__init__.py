"""Tests of the molds."""
