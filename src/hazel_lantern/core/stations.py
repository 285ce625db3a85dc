"""The stations, in the order of work. One row each: the window finds a station's page by its key."""

from __future__ import annotations

from msgspec import Struct


class Station(Struct, frozen=True):
    """Key, name, and its number on the trail and the keyboard.
    `every` kind of rig has it, or only those that say so."""

    key: str
    name: str
    number: int
    every: bool = False

    def holds(self, own: tuple[str, ...]) -> bool:
        """Whether rigs of a kind with these stations have this one."""
        return self.key in own or (self.every and RIG in own)


SHOT, RIG, BALANCE, TRAVEL = "shot", "rig", "balance", "travel"
DRIVE, BUILD, PROVE, ROLL = "drive", "build", "prove", "roll"
STATIONS: tuple[Station, ...] = (
    Station(SHOT, "Shot", 1, every=True),
    Station(RIG, "Rig", 2, every=True),
    Station(BALANCE, "Balance", 3),
    Station(TRAVEL, "Travel", 4),
    Station(DRIVE, "Drive", 5, every=True),
    Station(BUILD, "Build", 6, every=True),
    Station(PROVE, "Prove", 7, every=True),
    Station(ROLL, "Roll", 8, every=True),
)


def station(key: str) -> Station:
    """The row of a station."""
    return next(row for row in STATIONS if row.key == key)
