"""Tests of the app."""
