"""Deciding: a setting typed where it stands, in a drawing or beside it, and tried before it is kept."""
