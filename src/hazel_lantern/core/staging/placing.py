"""A shot of several still camera places: whether each is reached, and how long it takes to change."""

from __future__ import annotations

import numpy as np

from hazel_lantern.core.document.project import Shot
from hazel_lantern.core.kinds.path import Asked
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.staging.moves import Scene, on_set

NEAR = 0.03  # metres off, within which a still frame is set up by the head
BY_HAND, SETTLES = 0.25, 15.0  # m/s of a rig moved from place to place; seconds to lock, level and frame
CHANGE = Formula("d/v+t")


def place_shares(shot: Shot, scene: Scene) -> np.ndarray:
    """Shares of the path at which the camera stands (n,)."""
    first, last = scene.path.move.ends
    stops = np.array([first, *shot.via_m, last])
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(stops, axis=0), axis=1))])
    return np.asarray(run / run[-1] if run[-1] > 0 else np.linspace(0.0, 1.0, len(stops)))


def placing_figures(shot: Shot, scene: Scene) -> Told:
    """Each place against where the rig brings the lens; the longest change."""
    tell, path = Teller(), scene.path
    shares = place_shares(shot, scene)
    asked = Asked(shares, path.move.places(shares), *path.move.ends, path.lens)
    poses = path.follow(path.model, asked)
    frames = on_set(scene.where, scene.mount(path.model, poses.q))
    off = np.linalg.norm(frames.place(path.lens) - asked.places, axis=1)
    worst = int(np.argmax(off))
    where = ("start", *(f"way point {n}" for n in range(1, len(shares) - 1)), "end")[worst]
    fields = ("shot.start_x", *(f"via.{n}.x" for n in range(len(shares) - 2)), "shot.end_x")
    tell.add(
        by_method(
            "shot.place_off",
            "Furthest from a place wanted",
            float(off[worst]),
            "m",
            f"straight from the lens at each of {len(shares)} places; worst at the {where}",
            (Given("n", len(shares), "count", "places"),),
            source="drive 6",
        )
    )
    tell.hold(
        "shot.place_off",
        "shot.reached",
        "Places reached",
        PICTURE,
        fields[worst],
        Words(
            f"{'Both' if len(shares) == 2 else f'All {len(shares)}'} places are reached, the {where} within {{}}."
            if off[worst] <= NEAR
            else f"The {where} is missed by {{}}.",
            ((float(off[worst]), "m"),),
        ),
        at_most=NEAR,
        state=CLEAR if off[worst] <= NEAR else WATCH,
    )
    steps = np.linalg.norm(np.diff(asked.places, axis=0), axis=1)
    tell.add(
        by_formula(
            "shot.change",
            "Longest change of place",
            "s",
            CHANGE,
            (
                Given("d", float(steps.max(initial=0.0)), "m", "furthest from one place to the next"),
                Given("v", BY_HAND, "m/s", "moved by hand"),
                Given("t", SETTLES, "s", "to lock, level and frame"),
            ),
            source="times counted",
        )
    )
    return tell.told()
