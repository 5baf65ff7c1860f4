"""Strongback schedules."""
