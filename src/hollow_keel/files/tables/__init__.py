"""Tables of offsets as builders have them: from files, spreadsheets and the clipboard, in whatever words and order."""
