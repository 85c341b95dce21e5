"""Writing over what stands: every change names what it saw, and one that saw something else is refused, kept and told."""

from collections.abc import Mapping
from typing import Any, NoReturn

from valley_web.common.errors import Conflict, Unfit


def overtaken(now: Mapping[str, Any], seen: Mapping[str, Any], wanted: Mapping[str, Any]) -> dict[str, Any]:
    """Of what is wanted, by field, what must not be written: another window changed the field since it was seen, to something else.

    >>> overtaken({"rights": "asked"}, {"rights": ""}, {"rights": "granted"})
    {'rights': 'granted'}
    >>> overtaken({"rights": "asked"}, {"rights": "asked"}, {"rights": "granted"})
    {}
    """
    blind = [name for name in wanted if name not in seen]
    if blind:
        raise Unfit(
            f"This change does not say what stood there before: {', '.join(blind)}.", "Load the page again and make the change once more.", kind="blind"
        )
    return {name: value for name, value in wanted.items() if now[name] != seen[name] and now[name] != value}


def tell_overtaken(lost: Mapping[str, Any], now: Mapping[str, Any], where: str) -> NoReturn:
    """Refuse, saying what stands there now and ``where`` what was not written is kept."""
    name = next(iter(lost))
    there = f"“{now[name]}”" if now[name] else "nothing"
    raise Conflict(
        "This was changed in another window.",
        f"There it says {there} now. What you wrote is kept {where}; write it again if you still want it.",
        kind="overtaken",
        data={"fields": sorted(lost)},
    )


def said_of(lost: Mapping[str, Any]) -> str:
    """The line by which what was refused is kept."""
    return "not taken over, as another window had changed it: " + "; ".join(f"{name.replace('_', ' ')} “{value}”" for name, value in lost.items())
