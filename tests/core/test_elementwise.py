"""Every closed form gives for arrays what it gives one by one, and its guards name the first wrong value."""

from __future__ import annotations

import math

import numpy as np
import pytest
from msgspec.structs import asdict

from hazel_lantern.core.mechanics import (
    balance,
    beam,
    built_up,
    cables,
    carriage,
    linkage,
    overhead,
    pins,
    rolling,
    sections,
    vibration,
)
from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.errors import GeometryError, InfeasibleError, InputError

MANY = 60
# Each closed form and the spans its inputs are drawn from.
FORMS = [
    (sections.solid_round, {"d": (0.004, 0.1)}),
    (sections.round_tube, {"d": (0.01, 0.1), "t": (0.0005, 0.0045)}),
    (sections.flat_bar, {"b": (0.003, 0.1), "h": (0.003, 0.2)}),
    (sections.rectangular_tube, {"b": (0.02, 0.1), "h": (0.02, 0.1), "t": (0.001, 0.004), "r_outer": (0.0, 0.009)}),
    (sections.angle, {"b": (0.02, 0.1), "h": (0.02, 0.1), "t": (0.001, 0.009)}),
    (sections.channel, {"h": (0.03, 0.1), "b": (0.02, 0.1), "t_web": (0.002, 0.009), "t_flange": (0.002, 0.009)}),
    (beam.tip_sag, {"ei": (10, 1e5), "length": (0.2, 4), "load": (0, 90), "line_load": (0, 40)}),
    (beam.root_moment, {"length": (0.2, 4), "load": (0, 90), "line_load": (0, 40)}),
    (beam.clamped_frequency, {"ei": (10, 1e5), "length": (0.2, 4), "tip_mass": (0, 9), "arm_mass": (0.1, 9)}),
    (beam.balanced_frequency, {"ei": (10, 1e5), "front_length": (0.4, 4), "rear_length": (0.2, 2), "tip_mass": (0.1, 9),
        "front_arm_mass": (0, 4), "counterweight": (0.1, 30), "rear_arm_mass": (0, 3)}),
    (built_up.joint_efficiency, {"e_flange": (5e9, 1e10), "area": (1e-4, 3e-3), "pitch": (0.02, 0.4),
        "slip": (1e5, 2e6), "span": (0.5, 5)}),
    (built_up.board_beam, {"flange_b": (0.03, 0.2), "flange_t": (0.006, 0.03), "web_t": (0.006, 0.03),
        "web_h": (0.03, 0.3), "e_flange": (5e9, 1e10), "e_web": (5e9, 1e10), "joint": (0, 1)}),
    (built_up.slip_modulus, {"density": (300, 900), "diameter": (0.003, 0.008)}),
    (cables.levelling_cable, {"moment": (-9, 9), "wheel": (0.03, 0.2), "ea": (1e4, 1e6), "run": (0.5, 3),
        "angle": (-1, 1), "post_wheel": (0.03, 0.2), "head_wheel": (0.03, 0.2)}),
    (cables.stayed, {"length": (0.5, 4), "ei": (100, 1e5), "mast": (0.1, 1), "area": (1e-6, 1e-5),
        "modulus": (5e10, 2e11), "load": (0, 90)}),
    (rolling.step, {"diameter": (0.02, 0.1), "height": (0, 0.009), "speed": (0.01, 2), "load": (0, 90)}),
    (rolling.gap, {"diameter": (0.02, 0.1), "width": (0, 0.019), "speed": (0.01, 2)}),
    (rolling.wheel_for_step, {"height": (1e-4, 0.009), "speed": (0.01, 2), "allowed": (0.001, 0.2)}),
    (rolling.wheel_for_gap, {"width": (1e-4, 0.009), "speed": (0.01, 2), "allowed": (0.001, 0.2)}),
    (rolling.push, {"weight": (0, 300), "rolling": (0, 0.1), "slope": (-0.6, 0.6)}),
    (carriage.incline, {"mass": (0.1, 20), "slope": (0, 1.5), "rolling": (0, 0.2), "run": (0, 4)}),
    (carriage.shuttle, {"weight": (1, 90), "load_x": (0, 0.02), "offset": (-0.3, 0.3), "guide": (0.05, 0.4),
        "mu": (0.01, 0.4), "resisting": (0, 9)}),
    (linkage.bar_touch_angle, {"post_spacing": (0.1, 0.4), "bar_depth_lower": (0.02, 0.06),
        "bar_depth_upper": (0.02, 0.06), "clearance": (0, 0.02)}),
    (linkage.height_travel, {"front_length": (0.5, 4), "low": (-1, 0.4), "high": (0.5, 1.2)}),
    (linkage.arc_shift, {"front_length": (0.5, 4), "low": (-1, 0.4), "high": (0.5, 1.2)}),
    (balance.washer_friction, {"clamp": (0, 900), "mu": (0, 0.4), "r_inner": (0.002, 0.006), "r_outer": (0.007, 0.02)}),
    (overhead.gantry, {"span": (0.5, 5), "trolley_y": (-0.3, 5.3), "boom": (0, 2), "angle": (-4, 4), "trolley": (0, 9),
        "boom_mass": (0, 3), "payload": (0, 6), "bridge": (0, 20), "counterweight": (0, 6), "counter_arm": (0, 1)}),
    (overhead.reach_area, {"travel_x": (0, 3), "travel_y": (0, 3), "longest": (1.2, 2.5), "shortest": (0, 1.2)}),
    (overhead.desk_frame, {"weight": (0, 60), "reach": (0.2, 1), "post": (0.3, 2), "ei_boom": (100, 1e4),
        "ei_post": (100, 1e4), "gj_boom": (100, 1e4), "end": (0, 0.4), "angle": (-3, 3),
        "ei_end": (100, 1e4), "base": (100, 1e5)}),
    (overhead.tether_peak, {"mass": (0.1, 9), "drop": (0, 0.3), "stiffness": (500, 1e5)}),
    (overhead.tether_rating, {"mass": (0.1, 3), "peak": (0, 900)}),
    (pins.pin, {"force": (-900, 900), "diameter": (0.004, 0.012), "middle": (0.01, 0.1),
        "side": (0.004, 0.05), "gap": (0, 0.01)}),
    (vibration.transmissibility, {"frequency": (0, 60), "natural": (1, 30), "damping": (0.01, 0.9)}),
    (vibration.settle_time, {"natural": (1, 30), "damping": (0.01, 0.9), "share": (0.005, 0.2)}),
    (vibration.kick, {"speed": (0, 2), "natural": (1, 30), "damping": (0.0, 0.95)}),
]  # fmt: skip


def flat(result):
    """The numbers of a result by name."""
    if isinstance(result, tuple):
        return dict(enumerate(result))
    return asdict(result) if hasattr(result, "__struct_fields__") else {"": result}


@pytest.mark.parametrize(("form", "spans"), FORMS, ids=lambda one: getattr(one, "__name__", ""))
def test_a_closed_form_gives_for_arrays_what_it_gives_one_by_one(form, spans):
    rng = np.random.default_rng(len(form.__name__))
    drawn = {name: rng.uniform(low, high, MANY) for name, (low, high) in spans.items()}
    together = flat(form(**drawn))
    for k in range(MANY):
        alone = flat(form(**{name: float(values[k]) for name, values in drawn.items()}))
        for name, value in alone.items():
            assert not isinstance(value, np.ndarray)
            assert np.broadcast_to(together[name], MANY)[k] == pytest.approx(value, rel=1e-12, abs=1e-15), name
    # A single number may stand among arrays.
    some = next(iter(spans))
    held = flat(form(**{**drawn, some: float(drawn[some][0])}))
    assert np.broadcast_to(next(iter(held.values())), MANY)[0] == pytest.approx(
        np.broadcast_to(next(iter(together.values())), MANY)[0], rel=1e-12
    )


def test_guards_name_the_field_and_the_first_wrong_value():
    good = np.array([0.1, 0.2, 0.3])
    for guard, wrong in ((positive, 0.0), (positive, math.nan), (not_negative, -0.4), (finite, math.inf)):
        values = np.array([0.5, wrong, -7.0])
        with pytest.raises(InputError) as raised:
            guard(length=good, load=values)
        assert raised.value.field == "load"
        assert raised.value.value == wrong or (math.isnan(wrong) and math.isnan(raised.value.value))
        with pytest.raises(InputError, match="load"):
            guard(length=0.1, load=wrong)
    for bad in (
        lambda: sections.round_tube(good, np.array([0.01, 0.11, 0.2])),
        lambda: sections.rectangular_tube(good, good, 0.01, math.nan),
        lambda: built_up.board_beam(0.07, 0.018, 0.018, 0.11, 1e9, 1e9, np.array([0.5, math.nan])),
    ):
        with pytest.raises(InputError):
            bad()
    with pytest.raises(InfeasibleError) as climbed:
        rolling.step(good, np.array([0.01, 0.3, 0.01]), 0.5)
    assert climbed.value.nearest["step_height"] == pytest.approx(0.1)
    with pytest.raises(GeometryError):
        linkage.bar_touch_angle(np.array([0.1, 0.03]), 0.04, 0.04)


def test_the_hardest_pull_after_a_kick_is_that_of_the_motion_itself():
    for damping in (0.0, 0.05, 0.3, 0.5, 0.7, 0.95):
        w = 2 * math.pi * 4.0
        wd, t = w * math.sqrt(1 - damping**2), np.linspace(0, 3, 600_001)
        z = 0.7 / wd * np.exp(-damping * w * t) * np.sin(wd * t)
        pulled = np.gradient(np.gradient(z, t), t)[2:-2]
        assert vibration.kick(0.7, 4.0, damping).acceleration == pytest.approx(
            max(float(np.abs(pulled).max()), 2 * damping * w * 0.7), rel=2e-3
        )


def test_the_swings_of_many_jibs_are_those_of_each():
    rng = np.random.default_rng(4)
    sizes = {
        "pivot_height": (0.4, 2),
        "front_length": (0.5, 3),
        "rear_length": (0.3, 1.2),
        "head_lowest_below_pin": (0, 0.3),
        "counterweight_radius": (0.05, 0.3),
        "ground_clearance": (0, 0.1),
    }
    drawn = {name: rng.uniform(low, high, 400) for name, (low, high) in sizes.items()}
    spacing = rng.uniform(0.02, 0.2, 400)
    touch = np.arccos(np.minimum(1.0, 0.04 / spacing))
    low, high = linkage.usable_angles(**drawn, touch=touch, post_lean=0.05)
    for k in range(400):
        try:
            one = linkage.jib_limits(
                **{name: float(values[k]) for name, values in drawn.items()},
                post_spacing=float(spacing[k]),
                bar_depth_lower=0.05,
                bar_depth_upper=0.03,
                post_lean=0.05,
            )
        except GeometryError:
            assert math.isnan(low[k])
            continue
        assert (low[k], high[k]) == pytest.approx((one.low, one.high), rel=1e-12)
    assert 20 < np.isnan(low).sum() < 380
