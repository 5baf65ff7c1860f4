"""The page of the offsets, what is decided on it, and its dialogs."""
