"""A post that hangs the camera below what carries it: its pieces, and whether it bears a push."""

from __future__ import annotations

import math

from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.shared.fixings import ANGLE, camera_held
from hazel_lantern.core.kinds.shared.holes import board_modulus
from hazel_lantern.core.kinds.shared.inputs import PLATFORMS
from hazel_lantern.core.kinds.shared.works import bears, bolt_bears, works
from hazel_lantern.core.mechanics import sections
from hazel_lantern.core.mechanics.pins import CAMERA_THREADS
from hazel_lantern.core.mechanics.safety import safety_class
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import PEOPLE, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.fasteners import bolt
from hazel_lantern.core.workshop.laid import Pieces
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Buy, Fastening, Part
from hazel_lantern.core.workshop.solids import DOWN, TOP, Bar, Place, Sheet, Vector

SHEET = 0.003  # metres thick of a bracket
NAME, POLE_NAME, PLATFORM_NAME = "Drop post", "Drop pole", "Camera platform"
POST, POLE = "al6063-30x30x2", "al6063-round-30x2"
SPARE = 0.1  # metres of a pole above its upper clamp, to slide it down by
BEHIND = 0.11  # metres that the post stands behind the camera's screw, so that the camera has room
SHORTEST = 0.04  # metres under which there is no post
REAR = 0.05  # metres of the platform behind the post
FRONT = 0.035  # metres of it ahead of the camera's screw
FOOT = 0.03  # metres from the post to the screws of its brackets
BOLT = 0.0064
ROOM = 0.002  # metres that the hole for a pole is wider than it
HANDS = 1.5
NEAR = 0.05  # metres that a push at the camera acts above its platform
M5 = 14.2e-6  # square metres of an M5 in its thread
SOUND = 0.8  # of what is allowed, so that the mended post is not told again


class DropPost(Struct, frozen=True):
    """The pieces, where the screws of its upper brackets or clamp sit in the frame of its body (x, y) [m], and what
    passes there through what carries it: a pole that slides, its place and the width of its hole [m].
    """

    pieces: Pieces
    feet: tuple[tuple[float, float], ...]
    through: tuple[tuple[float, float, float], ...] = ()


def drop_post(
    design: Design,
    kit: Carried,
    body: str,
    top: float,
    mount: Vector,
    heading: float,
    behind: float = BEHIND,
    *,
    clamped: bool = False,
    through: float = 0.018,
) -> DropPost | None:
    """A post from what carries it down to a platform under the camera.

    body: what it moves with
    top: where it begins, in the body's frame [m]
    mount: where the camera is screwed on, in the body's frame (3,) [m]
    heading: where the camera looks, from the body's x axis to the left [rad]
    behind: how far the post stands behind the camera's screw [m]
    through: how thick what it hangs from is where its brackets are bolted [m]
    clamped: whether it is a round pole that slides in clamps, instead of a post bolted between brackets

    Returns: the post; None where the mount is so near that none is needed.
    """
    x, y, z = mount
    if top - z < SHORTEST:
        return None
    cos, sin = math.cos(heading), math.sin(heading)
    ahead = (cos, sin, 0.0)

    def on(along: float) -> tuple[float, float]:
        """Along the platform, from the post."""
        return x + (along - behind) * cos, y + (along - behind) * sin

    board = design.row("sections", "post.platform")
    long = REAR + behind + FRONT
    sheet = Sheet.of(design.catalogue, board.id, long)
    thread = CAMERA_THREADS[kit.stands_on]
    feet = tuple(
        Mark(REAR + side * FOOT, "hole", 0.0055, note="post bracket", face=TOP, fastening="post foot")
        for side in (-1, 1)
    )
    seat = Mark(REAR + behind, "hole", thread.hole, note="camera or head screw", face=TOP, fastening="camera")
    bolts = tuple(Mark(at, "hole", BOLT, note="brackets", fastening="post bolt") for at in (0.02, top - z - 0.02))
    spare = SPARE if clamped else 0.0
    post = Part(
        "D1",
        POLE_NAME if clamped else NAME,
        Bar.of(design.catalogue, POLE if clamped else POST, top - z + spare),
        (Place(body, (*on(0.0), top + spare), DOWN, ahead),),
        () if clamped else bolts,
        "upper end",
    )
    parts = (
        post,
        Part(
            "P2",
            PLATFORM_NAME,
            sheet,
            (Place(body, (*on(-REAR), z - board.width / 2), ahead),),
            tuple(sorted((*feet, seat), key=lambda mark: mark.at)),
            "post end",
        ),
    )
    m5, m6 = (design.catalogue.bolts[size] for size in ("M5", "M6"))
    fastenings = (
        Fastening(
            "post bolt",
            (
                bolt(m6, post.solid.box[2] + 2 * SHEET + 2 * m6.washer_t, note="through the drop post"),
                Buy(ANGLE, 2, 0.9, "holds the drop post"),
            ),
        ),
        Fastening(
            "post foot",
            (bolt(m5, max(board.width, through) + SHEET + 2 * m5.washer_t, note="brackets of the drop post"),),
            reach=0.03,
        ),
        camera_held(kit),
    )
    clamps = Buy(
        f"Pole clamp with lever, bore {post.solid.box[1] * 1e3:.0f} mm", 2, 8.5, "pole to plate and to platform"
    )
    passes = ((*on(0.0), post.solid.box[1] + ROOM),) if clamped else ()
    return DropPost(Pieces(parts, (), fastenings, (clamps,) if clamped else ()), (on(-FOOT), on(FOOT)), passes)


def post_figures(
    design: Design, pieces: Pieces, mass: float, push: float, brake: float, lowers: tuple[str, float], carrier: str
) -> Told:
    """Bending of the drop post at its upper bolt: a push at the camera, a hard stop, and the camera's weight in front
    of it.

    pieces: all of the rig
    mass: what hangs on the post [kg]
    push: at the camera [N]
    brake: of a hard stop [m/s^2]
    lowers: the input that sets its length, and +1 where a larger one lowers the mount, else -1
    carrier: the input of the height of what carries it
    """
    part = next((part for part in pieces.parts if part.name in (NAME, POLE_NAME)), None)
    if part is None or not isinstance(part.solid, Bar):
        return Told()
    tell, stock, material = Teller(), part.solid.stock, part.solid.material
    platform = next(other for other in pieces.parts if other.name == PLATFORM_NAME)
    behind = platform.length - REAR - FRONT
    moment = HANDS * ((push + mass * brake) * part.length + mass * GRAVITY * behind)
    section = stock.section()
    left = sections.drilled(section, BOLT, stock.walls) if part.marks else float(section.modulus)
    allowed = material.allowed(safety_class("D").strength(material.family))
    given = (
        Given("m", mass, "kg", "what hangs on it", "kit"),
        Given("l", part.length, "m", "drop post"),
        Given("F", push, "N", "push at the camera"),
        Given("a", brake, "m/s^2", "hard stop"),
        Given("e", behind, "m", "camera ahead of the post"),
    )
    tell.add(
        by_method(
            "rig.post_stress",
            "Stress in the drop post",
            moment / left,
            "Pa",
            "(F + m a) l + m g e, times 1.5, over the section left at its bolt",
            given,
            source="statics 3, 9",
        )
    )
    stress = tell.value("rig.post_stress")
    sideways, ahead = push + mass * brake, mass * GRAVITY * behind
    spare = SOUND * allowed * left / HANDS - ahead
    long = spare / sideways if sideways > 0 else part.length  # metres of post that work at no more than is sound
    less = math.ceil((part.length - long) * 100) / 100
    where, sense = lowers
    shorter = tuple((key, round(design.number(key) - by, 6)) for key, by in ((where, sense * less), (carrier, less)))
    mend = (Remedy("shorter", Words("Post {} shorter, what carries it as much lower", ((less, "m"),)), shorter),)
    words = Words("The drop post works at {} of {} allowed overhead.", ((stress, "Pa"), (allowed, "Pa")))
    tell.hold(
        "rig.post_stress",
        "rig.post",
        "Strength of the drop post",
        PEOPLE,
        where,
        words,
        at_most=allowed,
        remedies=mend if less > 0 and long > SHORTEST else (),
    )
    _platform(tell, design, platform, mass, sideways, behind)
    return tell.told()


def _platform(tell: Teller, design: Design, platform: Part, mass: float, sideways: float, behind: float) -> None:
    """The platform where it leaves the post, and the bolts of the brackets that hold it there."""
    modulus = board_modulus(platform)
    moment = HANDS * (mass * GRAVITY * behind + sideways * NEAR)
    given = (
        Given("m", mass, "kg", "what hangs on it", "kit"),
        Given("e", behind, "m", "camera ahead of the post"),
        Given("F", sideways, "N", "push at the camera and hard stop"),
    )
    works(
        tell,
        "rig.platform",
        "camera platform",
        moment / modulus,
        bears(design, platform.solid.material),
        "(m g e + F times 50 mm), times 1.5, over what its holes leave",
        (*given, Given("Z", modulus, "m^3", "section modulus left of the platform")),
        "kit",
        source="statics 3, 9",
        about=PEOPLE,
        remedies=_wider(design, platform, moment / (SOUND * bears(design, platform.solid.material))),
    )
    works(
        tell,
        "rig.post_bolts",
        "bolts of the drop post's brackets",
        (moment / (2 * FOOT) + HANDS * mass * GRAVITY / 2) / M5,
        bolt_bears(design),
        "that moment over the 60 mm between them, and half of the weight, on one M5",
        given,
        "kit",
        source="statics 13",
        about=PEOPLE,
        verb="work",
    )


def _wider(design: Design, platform: Part, modulus: float) -> tuple[Remedy, ...]:
    """The narrowest board of a section modulus [m^3] under the camera."""
    for board, name in PLATFORMS:
        other = replace(platform, solid=Sheet.of(design.catalogue, board, platform.length))
        if board_modulus(other) >= modulus:
            now = design.text("post.platform") == board
            return () if now else (set_one("wider", f"{name} under the camera", "post.platform", board),)
    return ()
