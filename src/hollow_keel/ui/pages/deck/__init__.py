"""The page of the deck, what is decided on it, and its dialogs."""
