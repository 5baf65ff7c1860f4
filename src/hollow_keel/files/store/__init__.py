"""The job file, its earlier versions, and the one door for every file written."""
