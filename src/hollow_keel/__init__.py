"""Hollow Keel: plans strip-planked and cold-molded hulls."""

__version__ = "0.1.0"

import os

# Looking for plug-ins of pydantic reads every installed package's description at each start; none are used.
os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "__all__")
