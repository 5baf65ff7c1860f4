"""Tests of the log."""
