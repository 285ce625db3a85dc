"""The registry of rig kinds: everyone else asks here and never names one."""

from hazel_lantern.core.kinds.base import Context, Kind, Report
from hazel_lantern.core.kinds.gantry import KIND as GANTRY
from hazel_lantern.core.kinds.jib import KIND as JIB
from hazel_lantern.core.kinds.overhead import KIND as OVERHEAD
from hazel_lantern.core.kinds.slider import KIND as SLIDER

KINDS: dict[str, Kind] = {kind.id: kind for kind in (JIB, SLIDER, OVERHEAD, GANTRY)}

__all__ = ["KINDS", "Context", "Kind", "Report"]
