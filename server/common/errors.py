"""What can go wrong with what is stored, beside a document that is none."""

from powertrain.errors import Refusal


class NotFound(Exception):
    """Something that this owner does not have."""

    def __init__(self, where: str, what: str) -> None:
        super().__init__(where, what)
        self.where = where
        self.what = what


class Busy(Exception):
    """There is no room for more of something just now."""

    def __init__(self, where: str, what: str) -> None:
        super().__init__(where, what)
        self.where = where
        self.what = what


class Conflict(Exception):
    """A change made from a version that is no longer the newest.

    The change itself is not lost: `kept` is the number of the version it was kept as, None
    where there was no document in it; `head` is what stands now.
    """

    def __init__(self, kept: int | None, head: int) -> None:
        super().__init__(kept, head)
        self.kept = kept
        self.head = head


class OperationRefused(Refusal):
    """The operation at `index` of a request can't be carried out."""

    def __init__(self, index: int, refusal: Refusal) -> None:
        super().__init__(refusal.where, refusal.what)
        self.index = index
