"""The page of the veneers, what is decided on it, and its dialogs."""
