"""The job's files, and files written out of the window."""
