"""A simulated device behind a port: answers line by line, over a socket of this machine or straight to who asks."""

from __future__ import annotations

import contextlib
import random
import socket
import threading
import time
from collections import deque
from typing import Protocol

from hazel_lantern.devices.errors import GarbledError, GoneError
from hazel_lantern.devices.lines import Line, decode, encode, said
from hazel_lantern.devices.ports import HERE


class Device(Protocol):
    """What answers."""

    def answer(self, words: tuple[str, ...]) -> tuple[str, ...]:
        """The words of its answer."""


class Answers:
    """A device's side of the protocol: one answer a question; one asked before is answered as before."""

    def __init__(self, device: Device) -> None:
        self._device = device
        self._last: tuple[int, tuple[str, ...], bytes] | None = None

    def to(self, raw: bytes) -> bytes | None:
        """The answer to a line; None for one that is garbled."""
        try:
            line = decode(raw)
        except GarbledError:
            return None
        if self._last is not None and self._last[:2] == (line.number, line.words):
            return self._last[2]
        try:
            words = self._device.answer(line.words)
        except (ValueError, IndexError) as error:
            words = ("no", said(str(error)))
        made = encode(Line(line.number, words))
        self._last = (line.number, line.words, made)
        return made


class Beside:
    """A port to a device in this very program. With `trouble` lines are lost, garbled or late, or it is unplugged, each
    as often as said.
    """

    def __init__(self, device: Device, trouble: Trouble | None = None) -> None:
        self._answers, self._trouble = Answers(device), trouble or Trouble()
        self._lines: deque[bytes] = deque()
        self._gone = False

    def send(self, line: bytes) -> None:
        self._gone = self._gone or self._trouble.unplugs()
        if self._gone:
            raise GoneError("the device is gone: unplugged or switched off")
        heard = self._trouble.over(line)
        answer = self._answers.to(heard.rstrip(b"\n")) if heard is not None else None
        back = self._trouble.over(answer) if answer is not None else None
        if back is not None:
            self._lines.append(back.rstrip(b"\n"))
            if self._trouble.doubles():
                self._lines.append(back.rstrip(b"\n"))

    def receive(self, seconds: float) -> bytes | None:
        if self._gone:
            raise GoneError("the device is gone: unplugged or switched off")
        if not self._lines or self._trouble.late():
            return None
        return self._lines.popleft()

    def close(self) -> None:
        self._gone = True


class Trouble:
    """What may happen to a line, each with a likelihood; seeded, so that it happens again."""

    def __init__(
        self,
        seed: int = 0,
        *,
        lost: float = 0.0,
        garbled: float = 0.0,
        late: float = 0.0,
        doubled: float = 0.0,
        unplugged: float = 0.0,
    ) -> None:
        self._chance = random.Random(seed)
        self._lost, self._garbled, self._late, self._doubled, self._unplugged = lost, garbled, late, doubled, unplugged

    def _happens(self, share: float) -> bool:
        return share > 0 and self._chance.random() < share

    def over(self, line: bytes) -> bytes | None:
        """A line after its way; None for one that was lost."""
        if self._happens(self._lost):
            return None
        if not self._happens(self._garbled):
            return line
        at = self._chance.randrange(max(1, len(line) - 1))
        return line[:at] + bytes([self._chance.randrange(256)]) + line[at + 1 :]

    def late(self) -> bool:
        return self._happens(self._late)

    def doubles(self) -> bool:
        return self._happens(self._doubled)

    def unplugs(self) -> bool:
        return self._happens(self._unplugged)


class Served:
    """A device on a socket of this machine, for one owner at a time; a thread of its own until it is closed."""

    def __init__(self, device: Device, number: int = 0) -> None:
        self._answers = Answers(device)
        self._listens = socket.create_server((HERE, number))
        self.number = int(self._listens.getsockname()[1])
        self._open = True
        self._thread = threading.Thread(target=self._serve, name="simulated device", daemon=True)
        self._thread.start()

    def _serve(self) -> None:
        self._listens.settimeout(0.2)
        while self._open:
            try:
                owner, _ = self._listens.accept()
            except OSError:
                continue
            with owner:
                self._talk(owner)

    def _talk(self, owner: socket.socket) -> None:
        rest = b""
        owner.settimeout(0.2)
        while self._open:
            try:
                more = owner.recv(4096)
            except TimeoutError:
                continue
            except OSError:
                return
            if not more:
                return
            rest += more
            while b"\n" in rest:
                line, _, rest = rest.partition(b"\n")
                answer = self._answers.to(line)
                with contextlib.suppress(OSError):
                    if answer is not None:
                        owner.sendall(answer)

    def close(self) -> None:
        """Let go of the socket; the thread ends with it."""
        self._open = False
        with contextlib.suppress(OSError):
            self._listens.close()
        self._thread.join(2.0)

    def wait(self) -> None:
        """Serve until it is interrupted."""
        with contextlib.suppress(KeyboardInterrupt):
            while True:
                time.sleep(0.5)
        self.close()
