"""The kinds of files that can be written, by what they tell of."""
