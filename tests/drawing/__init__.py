"""Tests of the drawing."""
