"""The page of the sheer and the ends, what is decided on it, and its dialogs."""
