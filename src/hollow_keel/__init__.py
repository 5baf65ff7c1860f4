"""Hollow Keel: plans strip-planked and cold-molded hulls."""

__version__ = "0.2.0"

import os

# Matrices as small as ours are slower to work with in more threads. To be said before NumPy is loaded.
for _name in ("OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS"):
    os.environ.setdefault(_name, "1")

# Looking for plug-ins of pydantic reads every installed package's description at each start; none are used.
os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "__all__")
