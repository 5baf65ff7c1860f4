"""Tests of the setup."""
