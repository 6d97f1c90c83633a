"""Options that several commands read alike."""

from valleywind.core.refusal import Refused
from valleywind.core.trains.search import MOST_STAGES


def read_stages(text: str) -> list[int]:
    """`1,2` as numbers of stages. Raises Refused `stages_out_of_range`."""
    try:
        return [int(word) for word in text.replace(",", " ").split()]
    except ValueError:
        raise Refused("stages_out_of_range", "stages", text, most=MOST_STAGES) from None
