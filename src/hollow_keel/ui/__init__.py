"""The window. The only place that knows Qt."""
