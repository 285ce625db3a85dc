"""Devices beside the window: one line protocol over a serial port or a local socket,
and simulated stand-ins that speak it."""
