"""Fairing: which offsets stand out, lines sprung as battens, the smallest moves that make all fair."""
