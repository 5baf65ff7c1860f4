"""The page of the molds, what is decided on it, and its dialogs."""
