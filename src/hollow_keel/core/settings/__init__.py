"""What a builder sets: every field of a Job with its words, limits and meaning, in one place each."""
