"""Shared by all tests: quick, repeatable property tests; `make soak` asks for many more examples."""

import os

from hypothesis import HealthCheck, settings

# as the program sets it: two processes with two threads each get in each other's way sevenfold
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

settings.register_profile(
    "quick", max_examples=30, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck)
)
settings.register_profile("soak", max_examples=4000, deadline=None, suppress_health_check=list(HealthCheck))
settings.load_profile("soak" if os.environ.get("NULLAH_SOAK") else "quick")
