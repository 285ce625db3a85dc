"""What can be wrong with a file."""

from __future__ import annotations

from pathlib import Path

from hazel_lantern.core.nouns.errors import HazelError, short

LONGEST = 300  # characters of a reason


class FileError(HazelError):
    """A file that cannot be used; its text says which, where and why."""

    def __init__(self, path: Path | str, reason: str) -> None:
        self.path, self.reason = Path(path), reason
        super().__init__(f"{short(Path(path).name)}: {short(reason, LONGEST)}")


class ChangedError(FileError):
    """A file that somebody else wrote since it was opened."""

    def __init__(self, path: Path) -> None:
        super().__init__(path, "was changed by somebody else since it was opened; nothing was written")
