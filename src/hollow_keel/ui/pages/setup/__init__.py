"""The page of the set-up, what is decided on it, and its dialogs."""
