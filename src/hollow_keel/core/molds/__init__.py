"""Molds: deduction, bevels, marks."""
