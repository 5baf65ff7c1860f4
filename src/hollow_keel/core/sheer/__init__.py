"""The sheer carried to the outside of the skin, and what follows it: beams, rails, trimming curves, both sides compared."""
