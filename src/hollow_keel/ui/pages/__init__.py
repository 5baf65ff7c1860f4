"""The pages, one a stage."""
