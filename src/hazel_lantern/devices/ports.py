"""Ways to a device: a serial port, or a socket of this machine. One owner each."""

from __future__ import annotations

import contextlib
import socket
import time
from typing import Protocol

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.devices.errors import DeviceError, GoneError
from hazel_lantern.devices.lines import LONGEST

HERE = "127.0.0.1"
BAUD = 115200
SOCKET = "socket:"


class Port(Protocol):
    """Lines out and in."""

    def send(self, line: bytes) -> None:
        """Write one line. Raises GoneError."""

    def receive(self, seconds: float) -> bytes | None:
        """The next line, None where none came in time. Raises GoneError."""

    def close(self) -> None:
        """Let go of it."""


class LocalSocket:
    """A socket of this machine, never of another."""

    def __init__(self, number: int) -> None:
        try:
            self._socket = socket.create_connection((HERE, number), timeout=2.0)
        except OSError as error:
            raise DeviceError(
                f"nothing answers at socket {number} of this machine: start the device there first"
            ) from error
        self._socket.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
        self._rest = b""

    def send(self, line: bytes) -> None:
        try:
            self._socket.sendall(line)
        except OSError as error:
            raise GoneError("the device is gone: its socket was closed") from error

    def receive(self, seconds: float) -> bytes | None:
        until = time.monotonic() + seconds
        while b"\n" not in self._rest:
            left = until - time.monotonic()
            if left <= 0:
                return None
            self._socket.settimeout(left)
            try:
                more = self._socket.recv(LONGEST)
            except TimeoutError:
                return None
            except OSError as error:
                raise GoneError("the device is gone: its socket was closed") from error
            if not more:
                raise GoneError("the device is gone: it closed its socket")
            self._rest = (self._rest + more)[-4 * LONGEST :]
        line, _, self._rest = self._rest.partition(b"\n")
        return line

    def close(self) -> None:
        with contextlib.suppress(OSError):
            self._socket.close()


class SerialPort:
    """A serial port, held by this program alone."""

    def __init__(self, name: str) -> None:
        import serial

        self._errors = (serial.SerialException, OSError, TypeError)
        try:
            self._port = serial.Serial(name, BAUD, timeout=0.05, write_timeout=1.0, exclusive=True)
        except (serial.SerialException, ValueError) as error:
            raise DeviceError(
                f"{name} cannot be opened: not plugged in, in use by another program, or not allowed to you"
            ) from error
        self._rest = b""

    def send(self, line: bytes) -> None:
        try:
            self._port.write(line)
        except self._errors as error:
            raise GoneError("the device is gone: unplugged or switched off") from error

    def receive(self, seconds: float) -> bytes | None:
        until = time.monotonic() + seconds
        while b"\n" not in self._rest:
            try:
                self._rest = (self._rest + self._port.read(self._port.in_waiting or 1))[-4 * LONGEST :]
            except self._errors as error:
                raise GoneError("the device is gone: unplugged or switched off") from error
            if time.monotonic() >= until and b"\n" not in self._rest:
                return None
        line, _, self._rest = self._rest.partition(b"\n")
        return line

    def close(self) -> None:
        with contextlib.suppress(*self._errors):
            self._port.close()


def open_port(name: str) -> Port:
    """The way to a device by its name: `socket:5151` on this machine, or a serial port.
    Raises InputError, DeviceError."""
    if name.startswith(SOCKET):
        number = name.removeprefix(SOCKET)
        if not number.isdigit() or not 1024 <= int(number) <= 65535:
            raise InputError("device", name, "must be socket: and a number from 1024 to 65535, or a serial port")
        return LocalSocket(int(number))
    if not name.strip():
        raise InputError("device", repr(name), "must be socket: and a number, or a serial port such as /dev/ttyUSB0")
    return SerialPort(name)


def serial_ports() -> tuple[tuple[str, str], ...]:
    """Serial ports of this machine, each with what it says of itself."""
    from serial.tools import list_ports

    return tuple((port.device, port.description or port.device) for port in sorted(list_ports.comports()))
