"""The page of the planking, what is decided on it, and its dialogs."""
