"""Work that takes longer than a moment, beside the window."""
