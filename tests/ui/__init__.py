"""Tests of the ui."""
