"""Tests of the offsets."""
