"""Tests of the stock."""
