"""Tests of the files."""
