"""The session: current job, history, commands; no interface code."""
