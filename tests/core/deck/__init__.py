"""Tests of the deck."""
