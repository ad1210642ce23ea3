"""Nudge: diagnose and charge an air conditioner from pressures and temperatures."""

import os

__version__ = "0.1.0"

for _name in ("OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS", "MKL_NUM_THREADS"):
    os.environ.setdefault(_name, "1")
"""Its matrices are small, its requests many: linear algebra that spins threads of its own for each
made a shop's readings wait ten times as long."""
