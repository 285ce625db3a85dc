"""A place in the document where a value stands, and what a parameter is bound to."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any, Generic, TypeVar

from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.document.project import Project, find, replaced
from hazel_lantern.core.nouns.quantity import Parameter

T = TypeVar("T")


class Place(Struct, Generic[T], frozen=True):
    """A place in the document: what stands there, and the document with something else there. Found anew in every
    document it is used on.
    """

    get: Callable[[Project], T]
    put: Callable[[Project, T], Project]

    def field(self, name: str) -> Place[Any]:
        """A field of the struct that stands here."""

        def put(project: Project, value: Any) -> Project:
            return self.put(project, replace(self.get(project), **{name: value}))  # type: ignore[type-var]

        return Place(lambda p: getattr(self.get(p), name), put)

    def item(self, index: int) -> Place[Any]:
        """One of the tuple that stands here."""
        return Place(lambda p: self.get(p)[index], lambda p, value: self.put(p, _with(self.get(p), index, value)))  # type: ignore[index, arg-type]

    def entry(self, key: str) -> Place[Any]:
        """One of the dict that stands here."""
        return Place(lambda p: self.get(p)[key], lambda p, value: self.put(p, {**self.get(p), key: value}))  # type: ignore[index, dict-item, arg-type]


class Binding(Struct, frozen=True):
    """A parameter and its place in the document."""

    parameter: Parameter
    place: Place[Any]


def _with(items: tuple[Any, ...], index: int, value: Any) -> Any:
    at = range(len(items))[index]
    return (*items[:at], value, *items[at + 1 :])


Rows = Iterable[tuple[Parameter, Place[Any]]]


def changed_by(whole: Place[T], stands: Place[Any], change: Callable[..., T]) -> Place[float]:
    """A place whose change changes more of the whole, or asks more of it, than what stands there."""
    return Place(stands.get, lambda p, value: whole.put(p, change(whole.get(p), value=value)))


def named(rows: Place[tuple[Any, ...]], key: str, field: str) -> Place[Any]:
    """The one of that id."""
    return Place(lambda p: find(rows.get(p), key, field), lambda p, new: rows.put(p, replaced(rows.get(p), new)))
