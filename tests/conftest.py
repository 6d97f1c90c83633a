"""The same examples in every CI run; new ones at every run by hand."""

import os

from hypothesis import settings

settings.register_profile("ci", derandomize=True, deadline=None)
settings.register_profile("here", deadline=None)  # how fast it is, is measured by `make bench`
settings.load_profile("ci" if os.environ.get("CI") else "here")
