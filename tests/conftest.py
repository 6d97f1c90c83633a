"""The same examples in every CI run; new ones at every run by hand."""

import os

from hypothesis import Phase, settings

# No test may depend on how fast the machine is: the bound by the clock is tried by setting it.
os.environ["VALLEYWIND_SECONDS"] = "100"

settings.register_profile("ci", derandomize=True, deadline=None)
settings.register_profile("here", deadline=None)  # how fast it is, is measured by `make bench`
# Where faults are planted it is enough that a test fails: the example is not made small.
settings.register_profile("planted", derandomize=True, deadline=None, phases=[Phase.explicit, Phase.generate])
settings.load_profile(os.environ.get("VALLEYWIND_EXAMPLES") or ("ci" if os.environ.get("CI") else "here"))
