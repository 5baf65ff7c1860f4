"""Outer stems, the keel strip, a transom of planks, knees."""
