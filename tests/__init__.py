"""Tests of the tests."""
