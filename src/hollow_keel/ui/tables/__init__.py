"""Tables of offsets on their way in: what was made of them, and new ones to be typed."""
