"""Tests of the planking."""
