"""The deck's planking: strips, openings, the join to the hull."""
