"""The registry of rig kinds: everyone else asks here and never names one."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from importlib import import_module

from hazel_lantern.core.kinds.base import Declared, Kind
from hazel_lantern.core.kinds.cable_cam.design import DECLARED as CABLE_CAM
from hazel_lantern.core.kinds.dolly.design import DECLARED as DOLLY
from hazel_lantern.core.kinds.gantry.design import DECLARED as GANTRY
from hazel_lantern.core.kinds.jib.design import DECLARED as JIB
from hazel_lantern.core.kinds.orbit.design import DECLARED as ORBIT
from hazel_lantern.core.kinds.overhead.design import DECLARED as OVERHEAD
from hazel_lantern.core.kinds.slider.design import DECLARED as SLIDER
from hazel_lantern.core.kinds.wish.design import DECLARED as WISH

DECLARED: dict[str, Declared] = {kind.id: kind for kind in (JIB, SLIDER, OVERHEAD, GANTRY, DOLLY, ORBIT, CABLE_CAM)}


def declared(kind_id: str) -> Declared | None:
    """What a kind declares, that which stands in for none among them; None for one that there is not."""
    return WISH if kind_id == WISH.id else DECLARED.get(kind_id)


class _Kinds(Mapping[str, Kind]):
    """Kinds by id, in the order they are offered. What works one out is loaded when it is first asked for: a start
    needs one of them, not all.
    """

    def __getitem__(self, key: str) -> Kind:
        found = declared(key)
        if found is None:
            raise KeyError(key)
        kind: Kind = import_module(f"{found.home}.kind").KIND
        return kind

    def __iter__(self) -> Iterator[str]:
        return iter(DECLARED)

    def __len__(self) -> int:
        return len(DECLARED)


KINDS: Mapping[str, Kind] = _Kinds()

__all__ = ["DECLARED", "KINDS", "WISH", "Declared", "Kind", "declared"]
