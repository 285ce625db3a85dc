"""A drive from its source to what it moves: stages in a row, what they ask of the source, how much play they leave."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.elementwise import Numbers
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import GRAVITY

TURN = 2 * math.pi


class Stage(Struct, frozen=True):
    """One step down, or up, between two shafts: speed in over speed out, efficiency driven forwards, free play at its
    output [rad], inertia of what turns with its output [kg*m^2].

    What comes back through it when the load drives is `back` of the ideal; without one, 2 - 1/efficiency. A negative
    one locks: it must be driven even then.
    """

    ratio: float
    efficiency: float = 1.0
    play: float = 0.0
    inertia: float = 0.0
    back: float | None = None

    @property
    def returned(self) -> float:
        """Share of the ideal that comes back when the load drives, below nought where it locks."""
        return 2 - 1 / self.efficiency if self.back is None else self.back


class Chain(Struct, frozen=True):
    """Stages in order from the source; `travel` of what is moved for a turn of the last shaft [m], 0 where that turns
    itself [rad]; `play` of the last link along the way [m].
    """

    stages: tuple[Stage, ...] = ()
    travel: float = 0.0
    play: float = 0.0

    @property
    def ratio(self) -> float:
        """Turns of the source for one of the last shaft."""
        return math.prod(stage.ratio for stage in self.stages)

    @property
    def efficiency(self) -> float:
        """Of the whole chain, driven forwards."""
        return math.prod(stage.efficiency for stage in self.stages)

    @property
    def per_output(self) -> float:
        """Angle of the source for a metre, or a radian, of what is moved [rad/m] or [1]."""
        return self.ratio * (TURN / self.travel if self.travel else 1.0)

    @property
    def returned(self) -> float:
        """Share of the ideal that comes back to the source when the load drives; 0 where any stage locks."""
        return math.prod(max(0.0, stage.returned) for stage in self.stages)


def chain(stages: Sequence[Stage], travel: float = 0.0, play: float = 0.0) -> Chain:
    """A checked chain.

    stages: in order from the source
    travel: of what is moved for a turn of the last shaft, 0 for one that turns [m]
    play: of the last link along the way [m]

    Returns: the chain. Raises: InputError for a ratio, an efficiency or a travel that is none, naming the stage.
    Source: drive 1.1.
    """
    for n, stage in enumerate(stages):
        positive(**{f"stages.{n}.ratio": stage.ratio, f"stages.{n}.efficiency": stage.efficiency})
        not_negative(**{f"stages.{n}.play": stage.play, f"stages.{n}.inertia": stage.inertia})
        if stage.efficiency > 1:
            raise InputError(f"stages.{n}.efficiency", stage.efficiency, "must be at most 1")
    not_negative(travel=travel, play=play)
    return Chain(tuple(stages), travel, play)


def lost_motion(given: Chain) -> float:
    """Free play of what is moved, the source held still: that of each stage, divided by all ratios behind it.

    given: chain

    Returns: play [m] along the way, or [rad] of what turns. Source: drive 1.1.
    """
    play = 0.0
    for stage in given.stages:
        play = play / stage.ratio + stage.play
    return play * given.travel / TURN + given.play if given.travel else play


def source_torque(given: Chain, effort: Numbers, acceleration: Numbers, rotor: float = 0.0) -> np.ndarray:
    """What the source must give to move a load, by the direction in which the power flows at every stage.

    given: chain
    effort: at what is moved, its own inertia in it, along its motion (n,) [N], or [N*m] where it turns; below nought
        where it drives the source
    acceleration: of what is moved, along its motion (n,) [m/s^2] or [rad/s^2]
    rotor: inertia of the source itself [kg*m^2]

    Returns: torque of the source (n,) [N*m]. Raises: InputError. Source: drive 1.2.
    """
    not_negative(rotor=rotor)
    effort, turning = np.asarray(effort, float), np.asarray(acceleration, float)
    finite(effort=effort, acceleration=turning)
    held = effort * given.travel / TURN if given.travel else effort
    turning = turning * TURN / given.travel if given.travel else turning
    for stage in reversed(given.stages):
        held = held + stage.inertia * turning
        held = np.where(held >= 0, held / stage.efficiency, held * stage.returned) / stage.ratio
        turning = turning * stage.ratio
    return np.asarray(held + rotor * turning)


def reflected_inertia(given: Chain, moved: float, rotor: float = 0.0) -> float:
    """All that turns or moves, as the source feels it.

    given: chain
    moved: inertia of what is moved [kg], or [kg*m^2] where it turns
    rotor: of the source itself [kg*m^2]

    Returns: inertia [kg*m^2]. Raises: InputError. Source: drive 1.1.
    """
    not_negative(moved=moved, rotor=rotor)
    felt = moved * (given.travel / TURN) ** 2 if given.travel else moved
    for stage in reversed(given.stages):
        felt = (felt + stage.inertia) / stage.ratio**2
    return felt + rotor


def linear_effort(
    mass: float, slope: float, acceleration: float, rolling: float, drag: float = 0.0, uphill: bool = True
) -> float:
    """Force along a way that moves a mass.

    mass: moved [kg]
    slope: of the way [rad]
    acceleration: along the motion [m/s^2]
    rolling: resistance over weight [-]
    drag: against the motion besides [N]
    uphill: which way it goes

    Returns: force along the motion, below nought where it runs by itself [N]. Raises: InputError. Source: drive 1.3.
    """
    not_negative(mass=mass, rolling=rolling, drag=drag)
    finite(slope=slope, acceleration=acceleration)
    weight, up = mass * GRAVITY, 1.0 if uphill else -1.0
    return rolling * weight * math.cos(slope) + drag + up * weight * math.sin(slope) + mass * acceleration
