"""Tests of the fairing."""
