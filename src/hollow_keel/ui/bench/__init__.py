"""One number at a time, full-screen: bench mode, and what each part of the work shows there."""
