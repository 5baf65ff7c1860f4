"""The job file and open formats in and out."""
