"""Tests of the outside."""
