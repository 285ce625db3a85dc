"""Handing out what chapters read: each name is worked out once for the versions of what it reads itself, and nothing
else reaches it.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable, Mapping
from typing import Any

from msgspec import Struct

from hazel_lantern.core.kinds.base import Chapter, reads
from hazel_lantern.core.memo import Kept, Memo
from hazel_lantern.core.nouns.errors import GeometryError, InfeasibleError, InputError, RefusedError, SingularModelError
from hazel_lantern.core.nouns.told import Told

REFUSALS = (GeometryError, InfeasibleError, RefusedError, InputError, SingularModelError)
Error = GeometryError | InfeasibleError | RefusedError | InputError | SingularModelError


class Failed(Struct, frozen=True):
    """A chapter that could not be worked out, and why; whatever reads it fails the same way."""

    error: Error


class Reader:
    """One evaluation's names: what is given, and the chapters that can be worked out from it. Lives as long as the
    evaluation is being made.
    """

    def __init__(self, memo: Memo, owner: str, given: Mapping[str, Kept], chapters: Iterable[Chapter]) -> None:
        self._memo, self._owner = memo, owner
        self._known: dict[str, Kept] = dict(given)
        self.chapters = {chapter.key: chapter for chapter in chapters}

    def get(self, name: str) -> Kept:
        """The value of a name and its version; a Failed where it cannot be worked out. Raises KeyError for a name
        that nothing answers to.
        """
        if name not in self._known:
            self._known[name] = self._work_out(self.chapters[name])
        return self._known[name]

    def value(self, name: str) -> Any:
        """The value of a name; raises the refusal that stands in its way."""
        value = self.get(name).value
        if isinstance(value, Failed):
            raise value.error
        return value

    def kept(self, name: str, key: Hashable, work: Callable[[], Any]) -> Any:
        """An answer kept beside the chapters' own."""
        return self._memo.step((self._owner, name), key, work).value

    def alias(self, name: str, other: str) -> None:
        """Another name for the same."""
        self._known[name] = self.get(other)

    def call(self, work: Callable[..., Any], **more: Any) -> Any:
        """What a function makes of the names it asks for, and of what else is handed to it. Raises what stands in its
        way.
        """
        return work(**{name: more[name] if name in more else self.value(name) for name in reads(work)})

    def tell(self, keys: Iterable[str]) -> tuple[list[Told], list[Error]]:
        """What chapters tell, in order, and what kept some of them from it, each reason once."""
        told: list[Told] = []
        failed: dict[str, Error] = {}
        for key in keys:
            value = self.get(key).value
            if isinstance(value, Told):
                told.append(value)
            elif isinstance(value, Failed):
                failed.setdefault(str(value.error), value.error)
        return told, list(failed.values())

    def _work_out(self, chapter: Chapter) -> Kept:
        held = [self.get(name) for name in chapter.reads]
        for kept in held:
            if type(kept.value) is Failed:
                return kept

        return self._memo.step(
            (self._owner, chapter.key), tuple([kept.version for kept in held]), lambda: _tried(chapter, held)
        )


def _tried(chapter: Chapter, held: list[Kept]) -> Any:
    """What a chapter makes of what it reads, or why it cannot."""
    try:
        return chapter.work(*[kept.value for kept in held])
    except REFUSALS as error:
        return Failed(error)
