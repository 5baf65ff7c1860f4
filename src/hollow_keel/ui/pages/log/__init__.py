"""The page of the log, what is decided on it, and its dialogs."""
