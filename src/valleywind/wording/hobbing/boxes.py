"""What the boxes of a hobber and their shafts are called."""

from valleywind.core.hobbing.machine import Box
from valleywind.wording.trains import ShaftNames

BOXES = {Box.INDEX: "index", Box.FEED: "feed", Box.DIFFERENTIAL: "differential"}
BOX_SHAFTS = {box: ShaftNames("drive shaft", f"{name} shaft", f"{name} quadrant") for box, name in BOXES.items()}
