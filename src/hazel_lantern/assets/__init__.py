"""What ships with the application: fonts, sample projects, the manual."""

from __future__ import annotations

import pkgutil

FONTS = ("Inter-Medium.otf", "Inter-SemiBold.otf", "Manrope-Bold.ttf", "Manrope-Medium.ttf", "Manrope-SemiBold.ttf")


def data(*path: str) -> bytes:
    """The bytes of a packaged file; raises FileNotFoundError when there is none."""
    # pkgutil rather than importlib.resources, which loads archive and temporary-file modules at every start.
    found = pkgutil.get_data(__name__, "/".join(path))
    if found is None:
        raise FileNotFoundError("/".join(path))
    return found
