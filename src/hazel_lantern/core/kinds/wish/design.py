"""What stands in for a rig where there is none."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Declared

DECLARED = Declared(
    home=__package__ or "", id="wish", name="No rig yet", variants=(("free", "Camera in the air"),), parameters=()
)
