"""Soles, bulkheads, stringers, joined sheets."""
