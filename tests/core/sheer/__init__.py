"""Tests of the sheer."""
