"""What is weighed of a lathe, in words."""

from valleywind.wording.effort import HOLDING, Weight, of_train
from valleywind.wording.trains import LATHE_SHAFTS

WEIGHTS = (*of_train(LATHE_SHAFTS), Weight("lever", "Move a lever"), HOLDING)
"""What a change at each of its places weighs."""
