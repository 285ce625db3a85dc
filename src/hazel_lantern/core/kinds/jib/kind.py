"""Jibs and cranes: an arm that swings a camera up and down on a post."""

from __future__ import annotations

from msgspec.structs import asdict

from hazel_lantern.core.kinds.base import Action, Chapter, Design, Kind, View
from hazel_lantern.core.kinds.jib.balance.footing import footing_figures, safe_map
from hazel_lantern.core.kinds.jib.balance.lead import along_arm
from hazel_lantern.core.kinds.jib.balance.moments import balance_figures, drift, moments, stays
from hazel_lantern.core.kinds.jib.balance.other_kits import SCHOOLS, TOLD_APART_BY, loading, swaps
from hazel_lantern.core.kinds.jib.balance.weights import balance_it, plates_finding, racked
from hazel_lantern.core.kinds.jib.build import build
from hazel_lantern.core.kinds.jib.clearing import clearing
from hazel_lantern.core.kinds.jib.design import DECLARED, TWO_HANDS
from hazel_lantern.core.kinds.jib.drawing import draw
from hazel_lantern.core.kinds.jib.driven import meets
from hazel_lantern.core.kinds.jib.foreseen import foreseen, tested
from hazel_lantern.core.kinds.jib.headlines import headlines
from hazel_lantern.core.kinds.jib.model import falls, follow, frames, handled, limits, members, mount
from hazel_lantern.core.kinds.jib.parts.arm import joined
from hazel_lantern.core.kinds.jib.reach import rig_figures, shot_figures, used_angles
from hazel_lantern.core.kinds.jib.sizing import size_it
from hazel_lantern.core.kinds.jib.strength.arm import at_flattest, at_steepest, flattest, steepest, strength_figures
from hazel_lantern.core.kinds.jib.strength.buckling import buckling_figures
from hazel_lantern.core.kinds.jib.strength.held import held_figures
from hazel_lantern.core.kinds.jib.strength.joints import joint_figures
from hazel_lantern.core.kinds.jib.strength.levelling import levelling_figures, pair_figures
from hazel_lantern.core.kinds.jib.strength.members import member_figures
from hazel_lantern.core.kinds.jib.strength.panning import panning_figures
from hazel_lantern.core.kinds.shared.under_feet import under_feet
from hazel_lantern.core.nouns.told import Told
from hazel_lantern.core.workshop.laid import Laid


def _ground(design: Design, laid: Laid) -> Told:
    return under_feet(design, laid, "stand.radius")


KIND = Kind(
    **asdict(DECLARED),
    views=(View("side", "Side"), View("above", "Above")),
    actions=(Action("rig", "Size it for me", size_it), Action("balance", "Balance it for me", balance_it)),
    model=Chapter("jib", build),
    chapters=(
        Chapter("used", used_angles),
        Chapter("shot_as_made", shot_figures),
        Chapter("reach", rig_figures),
        Chapter("levelling", levelling_figures),
        Chapter("flattest", flattest),
        Chapter("steepest", steepest),
        Chapter("at_flattest", at_flattest),
        Chapter("at_steepest", at_steepest),
        Chapter("strength", strength_figures),
        Chapter("panning", panning_figures),
        Chapter("joints", joint_figures),
        Chapter("members", member_figures),
        Chapter("held", held_figures),
        Chapter("buckling", buckling_figures),
        Chapter("moments", moments),
        Chapter("stays", stays),
        Chapter("racked", racked),
        Chapter("balance", balance_figures),
        Chapter("plates", plates_finding),
        Chapter("footing", footing_figures),
        Chapter("pairs", pair_figures),
        Chapter("lead", along_arm),
        Chapter("ground", _ground),
    ),
    follow=follow,
    tested=tested,
    mount=mount,
    members=members,
    bodies=frames,
    sketch=draw,
    headlines=headlines,
    readings={"drift": drift, "footing": safe_map, "swaps": swaps, "loading": loading, "foreseen": foreseen},
    schools=SCHOOLS,
    told_apart_by=TOLD_APART_BY,
    joined=joined,
    falls=falls,
    handled=handled,
    limits=limits,
    held=meets,
    clearing=clearing,
    hands=lambda design: 2 if design.text("hands") == TWO_HANDS else 1,
)
