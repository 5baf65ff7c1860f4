"""How the molds come out, and what the shell weighs."""
