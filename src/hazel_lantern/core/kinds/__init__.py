"""The registry of rig kinds: everyone else asks here and never names one."""

from hazel_lantern.core.kinds.base import Context, Kind, Report
from hazel_lantern.core.kinds.jib import KIND as JIB

KINDS: dict[str, Kind] = {kind.id: kind for kind in (JIB,)}

__all__ = ["KINDS", "Context", "Kind", "Report"]
