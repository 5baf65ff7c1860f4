"""The hull surface from the table, its sections and measures."""
