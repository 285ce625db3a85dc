"""What can be wrong with a device, each in one clear sentence."""

from __future__ import annotations

from hazel_lantern.core.nouns.errors import HazelError


class DeviceError(HazelError):
    """A device that cannot be used as it is."""


class GoneError(DeviceError):
    """It was there, and is no longer: unplugged, switched off, or another program took it."""


class GarbledError(DeviceError):
    """A line that does not bear its check sum."""


class RefusedByDeviceError(DeviceError):
    """It was asked for something that it does not do, and says why."""
