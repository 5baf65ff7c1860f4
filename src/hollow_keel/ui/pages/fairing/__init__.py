"""The page of the fairing, what is decided on it, and its dialogs."""
