"""What services refuse, in words for the user: what happened, and what to do. They know nothing of HTTP; ``problems`` maps each kind to it."""

from typing import Any


class Refusal(Exception):  # noqa: N818 - it names what was answered, not a fault of ours
    """A change or a question that cannot be met. ``kind`` tells the page what it may offer, ``data`` what that needs."""

    def __init__(self, title: str, detail: str = "", *, kind: str = "error", data: dict[str, Any] | None = None) -> None:
        super().__init__(title)
        self.title, self.detail, self.kind, self.data = title, detail, kind, data or {}


class Gone(Refusal):
    """What was asked for is not here, or not any more."""

    def __init__(self, title: str = "This is not here any more.", detail: str = "Go back to the shelf; deleted songs can be brought back there.") -> None:
        super().__init__(title, detail)


class Unfit(Refusal):
    """What was sent makes no sense here."""


class Empty(Refusal):
    """There is nothing in what was sent."""


class Conflict(Refusal):
    """Something else happened meanwhile, or stands in the way until the user has decided."""


class TooMuch(Refusal):
    """It is larger than what is taken in."""


class Forbidden(Refusal):
    """Who asks may not do this."""
