"""A reading that was compared with a set-up: what is answered, and what the log keeps of it."""

from typing import Generic, NamedTuple, TypeVar

from valleywind.api.access import Adds
from valleywind.shop.log import LoggedCheck, note_check
from valleywind.shop.models import MachineRow

Out = TypeVar("Out")


class Comparison(NamedTuple, Generic[Out]):
    """out: what is answered; row, ask, train, checked: what the log keeps."""

    out: Out
    row: MachineRow
    ask: str
    train: str
    checked: LoggedCheck

    def keep(self, keep: Adds, by: str) -> Out:
        """What is answered, once it stands in the log. by: initials."""
        keep(lambda session: note_check(session, self.row, self.ask, self.train, self.checked, by))
        return self.out
