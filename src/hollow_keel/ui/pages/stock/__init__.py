"""The page of the stock, what is decided on it, and its dialogs."""
