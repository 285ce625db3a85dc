"""Random designs of every kind and construction: what campaigns and audits are made of. One seed, one design."""

from __future__ import annotations

import math
import random

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing import bindings, changes
from hazel_lantern.core.editing.starting import blank, furnished
from hazel_lantern.core.kinds import DECLARED
from hazel_lantern.core.kinds.shared.splices import ROUND
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.quantity import Choice, Quantity

# What a choice asks of others, where most constructions exclude each other: (key, value) -> changes; one that its own
# construction does not know is turned back.
ASKS: dict[tuple[str, str], tuple[tuple[str, object], ...]] = {
    ("post.made", "between"): (("arm.made", "pair"),),
    ("post.made", "yoke"): (("post.section", "steel-channel-60x80x4"), ("arm.section", "al6063-oval-25x50x2")),
    ("post.made", "head"): (("pan.bearing", "head-heavy"),),
    ("arm.made", "telescopic"): (
        ("arm.section", "al6063-round-30x2"), ("arm.tip", "al6063-round-25x2"), ("arm.joint", 0.5),
        ("arm.sleeve", 0.2), ("arm.front", 1.2),
    ),
    ("arm.made", "tapered"): (("arm.section", "al6063-round-40x2"), ("arm.tip", "al6063-round-20x2")),
    ("weights.carried", "upright"): (("weights.above", -0.06),),
    ("cable.over", "pins"): (("cable.post_wheel", 0.16), ("cable.head_wheel", 0.16)),
}  # fmt: skip
FOR_ONE = {
    ("post.made", "yoke"): ("plain",),
    ("post.made", "head"): ("plain",),
    ("weights.carried", "upright"): ("two_bars", "riser"),
}

# What something turns or slides on is round.
ROUND_ONLY = {
    ("orbit", "shaft"): "shaft.section",
    ("orbit", "desk"): "shaft.section",
    ("overhead", "shuttle"): "rail.section",
}

NEAR, WITHIN, AT_BOUNDS = "near", "within", "at bounds"


def constructions() -> list[tuple[str, str]]:
    """Every kind with each of its constructions."""
    return [(kind.id, variant) for kind in DECLARED.values() for variant, _ in kind.variants]


def design(catalogue: Catalogue, kind: str, variant: str, seed: int, reach: str = NEAR) -> Project:
    """A project of one rig whose numbers lie near what is usual, anywhere within their bounds, or at them."""
    chance = random.Random(f"{kind} {variant} {seed} {reach}")
    project = changes.add_rig(chance.choice((blank(), *furnished())), kind, variant)
    rig = project.rigs[0].id
    for key, parameter in bindings.parameters(project, rig).items():
        # Each input has a chance of its own: a new one leaves all others as they were.
        chance = random.Random(f"{kind} {variant} {seed} {reach} {key}")
        if chance.random() < 0.4:
            continue
        if isinstance(parameter, Quantity):
            value: object = _number(chance, parameter, reach)
        elif isinstance(parameter, Choice):
            options = [o for o, _ in parameter.options] or list(getattr(catalogue, parameter.table))
            if reach != AT_BOUNDS and ROUND_ONLY.get((kind, variant)) == key:
                options = [o for o in options if catalogue.sections[o].shape in ROUND]
            value = chance.choice([o for o in options if variant in FOR_ONE.get((key, o), (variant,))])
        else:
            continue
        try:
            project = changes.set_values(project, rig, [(key, value)])
        except InputError:
            continue  # such as a key before the one before it: not a design
    if reach == NEAR:
        known = bindings.parameters(project, rig)
        for (key, chosen), asked in ASKS.items():
            if key in known and bindings.value_of(project, rig, key) == chosen:
                project = changes.set_values(project, rig, asked)
    return project


def _number(chance: random.Random, parameter: Quantity, reach: str) -> float:
    low, high = parameter.low, parameter.high
    if reach == AT_BOUNDS:
        value = chance.choice((low, high, parameter.default))
    elif reach == WITHIN or parameter.default == 0:
        value = chance.uniform(low, high if reach == WITHIN else low + (high - low) / 4)
    else:
        value = parameter.default * math.exp(chance.gauss(0.0, 0.25))
    value = round(value) if parameter.unit == "count" else value
    return min(max(value, low), high)
