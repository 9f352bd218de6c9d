"""What the engine says when it can't answer: always a place and a cure, never a bare failure."""

NO_WHEELS = "has no driven wheels; this can be asked of a vehicle on wheels only"


class Refusal(Exception):
    """An input that can't be used.

    Parameters
    ----------
    where : str
        Dotted document path of the offending value ('battery.series'), or the name of an
        argument. Empty when the document as a whole is at fault.
    what : str
        What is wrong there and what to do about it, in one sentence.
    """

    def __init__(self, where: str, what: str) -> None:
        super().__init__(where, what)
        self.where = where
        self.what = what

    def __str__(self) -> str:
        return f"{self.where or 'document'}: {self.what}"

    def as_dict(self) -> dict[str, dict[str, str]]:
        """Return the refusal in the form the command line and the API print."""
        return {"error": {"where": self.where, "what": self.what}}
