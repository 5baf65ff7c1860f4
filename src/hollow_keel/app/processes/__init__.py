"""Processes of the application: the one that computes, readers of files of other programs, searches."""
