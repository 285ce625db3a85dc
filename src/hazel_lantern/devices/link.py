"""Questions to a device and its answers: lost and garbled lines are asked again,
what does not answer is said plainly."""

from __future__ import annotations

import time

from hazel_lantern.devices.errors import DeviceError, GarbledError, RefusedByDeviceError
from hazel_lantern.devices.lines import NUMBERS, VERSION, Line, decode, encode, heard
from hazel_lantern.devices.ports import Port

PATIENCE, TRIES = 0.4, 3  # seconds for an answer; how often it is asked
OTHERS = 40  # lines that are none of ours, after which the line is called garbled


class Link:
    """One device over one port. A device answers a question that it was asked already with the same answer, so asking
    again does no harm.
    """

    def __init__(self, port: Port, patience: float = PATIENCE) -> None:
        self._port, self._patience, self._number = port, patience, 0

    def ask(self, *words: str) -> tuple[str, ...]:
        """What it answers after `ok`. Raises RefusedByDeviceError where it says no; GoneError; DeviceError where
        nothing comes, or only garbage.
        """
        self._number = (self._number + 1) % NUMBERS
        question = encode(Line(self._number, words))
        garbled = 0
        for _ in range(TRIES):
            self._port.send(question)
            until = time.monotonic() + self._patience
            while (left := until - time.monotonic()) > 0 and garbled < OTHERS:
                raw = self._port.receive(left)
                if raw is None:
                    break
                try:
                    answer = decode(raw)
                except GarbledError:
                    garbled += 1
                    continue
                if answer.number == self._number:
                    return self._taken(answer)
        if garbled:
            raise DeviceError(
                "what comes from the device is garbled: check its cable, and that it speaks this line protocol at "
                "115200 baud"
            )
        raise DeviceError("the device does not answer: check that it is switched on and speaks this line protocol")

    @staticmethod
    def _taken(answer: Line) -> tuple[str, ...]:
        if answer.words[0] == "no":
            raise RefusedByDeviceError(
                f"the device refuses: {heard(' '.join(answer.words[1:])) or 'it does not say why'}"
            )
        if answer.words[0] != "ok":
            raise DeviceError(f"the device answers {' '.join(answer.words)[:40]!r}, which is neither ok nor no")
        return answer.words[1:]

    def hello(self, kind: str) -> tuple[str, ...]:
        """Who it is: what it says of itself after version and kind. Raises DeviceError for another version or kind."""
        words = self.ask("hello", VERSION)
        if len(words) < 2 or words[0] != VERSION:
            raise DeviceError(
                f"it speaks version {words[0] if words else '?'} of the line protocol; this program speaks {VERSION}"
            )
        if words[1] != kind:
            raise DeviceError(f"it is a {heard(words[1])}, not a {kind}")
        return words[2:]

    def close(self) -> None:
        """Let go of it."""
        self._port.close()
