"""The registry of rig kinds: everyone else asks here and never names one."""

from hazel_lantern.core.kinds.base import Context, Kind, Report
from hazel_lantern.core.kinds.jib import KIND as JIB
from hazel_lantern.core.kinds.slider import KIND as SLIDER

KINDS: dict[str, Kind] = {kind.id: kind for kind in (JIB, SLIDER)}

__all__ = ["KINDS", "Context", "Kind", "Report"]
