"""Small helps for the frozen values that music is made of; they change how quickly a value is built or asked, never what it is.

Measured: of the time that arranging a song took, a third went into setting the fields of notes one by one, and a tenth into locks.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import MISSING, fields
from typing import Any, Generic, TypeVar, overload

T = TypeVar("T")
V = TypeVar("V")
C = TypeVar("C", bound=type)


def quick(cls: C) -> C:
    """A frozen dataclass with a constructor that writes all its fields at once.

    The usual constructor of a frozen dataclass calls ``object.__setattr__`` for every field; without slots the fields are the instance's
    dictionary, and can be written there directly. Arguments, defaults and ``__post_init__`` stay as they are.

    Parameters
    ----------
    cls : a frozen dataclass without slots, each of whose fields is an argument of its constructor

    >>> from dataclasses import dataclass
    >>> @quick
    ... @dataclass(frozen=True)
    ... class Key:
    ...     midi: int
    ...     finger: int | None = None
    >>> Key(60, finger=1)
    Key(midi=60, finger=1)
    """
    scope: dict[str, Any] = {}
    arguments, lines = [], []
    for field in fields(cls):
        if not field.init or field.kw_only or field.default_factory is not MISSING:
            raise TypeError(f"{cls.__name__}.{field.name} is no plain argument; quick takes classes whose fields all are, with values as defaults")
        if field.default is not MISSING:
            scope[f"_{field.name}"] = field.default
        arguments.append(field.name if field.default is MISSING else f"{field.name}=_{field.name}")
        lines.append(f"    d[{field.name!r}] = {field.name}")
    after = ["    self.__post_init__()"] if hasattr(cls, "__post_init__") else []
    exec("\n".join([f"def __init__(self, {', '.join(arguments)}):", "    d = self.__dict__", *lines, *after]), scope)  # noqa: S102 – names of fields only
    made = scope["__init__"]
    made.__qualname__, made.__module__ = f"{cls.__name__}.__init__", cls.__module__
    cls.__init__ = made  # type: ignore[misc]
    return cls


def copied(value: V, **changed: object) -> V:
    """``dataclasses.replace`` for changes that neither what is checked nor what is derived depends on: what was worked out goes along.

    Parameters
    ----------
    value : a frozen dataclass without slots
    changed : fields and what they become
    """
    new = object.__new__(type(value))
    new.__dict__.update(value.__dict__, **changed)
    return new


class derived(Generic[T]):  # noqa: N801 – used as a decorator, like property
    """A property that is worked out once and kept on its object: the standard one without its lock, which costs more than most of what is kept."""

    def __init__(self, work_out: Callable[[Any], T]) -> None:
        self._work_out = work_out
        self.__doc__ = work_out.__doc__

    def __set_name__(self, owner: type, name: str) -> None:
        self._name = name

    @overload
    def __get__(self, instance: None, owner: type) -> derived[T]: ...
    @overload
    def __get__(self, instance: object, owner: type) -> T: ...
    def __get__(self, instance: object | None, owner: type) -> derived[T] | T:
        if instance is None:
            return self
        value = self._work_out(instance)
        instance.__dict__[self._name] = value
        return value
