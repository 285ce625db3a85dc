"""Ropes: how they hang, what they pull, and what runs along them."""

from __future__ import annotations

from collections.abc import Callable
from math import degrees, nan, radians

import numpy as np

from hazel_lantern.core.mechanics import rigging, rope, rope_run
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.units import GRAVITY
from tests.validation.adapters.given import Inputs, Outputs


def _line(i: Inputs) -> rope.Line:
    return rope.Line(i["span"], i.get("rise_B_above_A", 0.0), i["rope_mass_per_m"] * GRAVITY, i["EA"])


def _one(found: np.ndarray, good: bool = True) -> float:
    """The one lane there is; what has no shape is an error, not a number."""
    if not good:
        raise InfeasibleError("no shape was found, or the rope would be stretched too far")
    return float(found[0])


def _hung(i: Inputs, clamped: bool) -> tuple[rope.Hung, float]:
    line, load, at = _line(i), i["carriage_mass"] * GRAVITY, i["carriage_x_from_A"]
    length = i["unstretched_length"] if "unstretched_length" in i else _one(rope.bare_length(line, _bare(i))[0])
    return (rope.clamped if clamped else rope.rolling)(line, length, load, at), length


def _bare(i: Inputs) -> float:
    return float(i.get("bare_horizontal_tension", nan))


def cable_carriage(i: Inputs) -> Outputs:
    hung, length = _hung(i, "clamp" in str(i.get("model", "rolling")))
    good = bool(hung.good[0])
    return {
        "sag_below_chord": _one(hung.sag, good),
        "tension_A": _one(hung.pull_a),
        "tension_B": _one(hung.pull_b),
        "angle_A_below_horizontal": degrees(np.arctan2(hung.down_a, hung.out_a)[0]),
        "angle_B_below_horizontal": degrees(np.arctan2(hung.down_b, hung.out_b)[0]),
        "haul_force_along_path_towards_B": _one(hung.haul),
        "unstretched_length": float(length),
    }


def cable_clamped_load(i: Inputs) -> Outputs:
    hung, _ = _hung(i, True)
    good = bool(hung.good[0])
    return {"sag_below_chord": _one(hung.sag, good), "tension_A": _one(hung.pull_a), "tension_B": _one(hung.pull_b)}


def tension_for_sag(i: Inputs) -> Outputs:
    line = _line(i)
    hung = rope.rolling_at_sag(line, i["allowed_sag_midspan"], i["carriage_mass"] * GRAVITY, i["span"] / 2)
    good = bool(hung.good[0])
    bare = _one(rope.bare_pull(line, hung.length), good)
    if bare > rope.STRETCH[0] * i["EA"]:
        raise InfeasibleError("the rope would have to be stretched too far")
    return {
        "bare_horizontal_tension": bare,
        "loaded_tension_A": _one(hung.pull_a),
        "loaded_tension_B": _one(hung.pull_b),
    }


def rope_temperature(i: Inputs) -> Outputs:
    line = _line(i)
    length, _ = rope.bare_length(line, _bare(i))
    return {
        "new_bare_horizontal_tension": _one(rope.bare_pull(line, length * (1 + i["alpha"] * i["temperature_change"])))
    }


def rope_verdict(i: Inputs) -> Outputs:
    rigging.refuse_people(bool(i.get("people_near", False)))
    sort, thick = str(i["rope"]), float(i.get("diameter", nan)) / 1e3
    left = [rigging.end_left(sort, str(i["end"]))] if "end" in i else []
    if "pin_diameter" in i:
        left.append(rigging.bend_left(thick, i["pin_diameter"] / 1e3))
    answer: Outputs = {"efficiency": min(left)} if left else {}
    if "design_tension" in i:
        answer["design_factor"] = min(left, default=1.0) * rigging.rope(sort, thick).breaking / i["design_tension"]
    else:
        answer["design_factor"] = i.get("design_factor", nan)
    return {**answer, "verdict": rigging.verdict(sort, answer["design_factor"])}


def guyed_post(i: Inputs) -> Outputs:
    slope, half = radians(i["guy_angle_above_ground"]), radians(i.get("plan_half_angle", 0.0))
    post = rigging.guyed_post(
        i["horizontal_rope_pull"], i["vertical_rope_pull_down"], slope, int(i.get("guys", 1)), half
    )
    answer: Outputs = {"tension_each_guy": post.guy, "post_compression": post.pressed}
    if "friction_of_deadweight" in i:
        answer["deadweight_each"] = rigging.dead_weight(
            post.guy, slope, i["friction_of_deadweight"], i.get("sliding_factor", 1.5)
        )
    return answer


def gravity_run(i: Inputs) -> Outputs:
    span, rise, bow, start = i["span"], i.get("end_height_B_minus_A", 0.0), i["path_c"], i["start_x"]
    x = np.linspace(start, span, 8001)
    slope = rise / span - 4 * bow * (span - 2 * x) / span**2
    run = rope_run.gravity_run(
        x,
        slope,
        slope,
        i["mass"],
        rolling=i["rolling_coefficient"],
        moved=i.get("effective_mass"),
        drag=i.get("CdA", 0.0),
        wind=i.get("head_wind", 0.0),
        start=i.get("start_speed", 0.0),
    )
    answer: Outputs = {"max_speed": run.fastest}
    return {**answer, "speed_at_end": run.at_end} if run.stops_at is None else {**answer, "first_stop_x": run.stops_at}


def gravity_run_elastic(i: Inputs) -> Outputs:
    x = np.linspace(i["start_x"], 0.995 * i["span"], 2001)
    load = i["carriage_mass"] * GRAVITY
    hung = rope.rolling(_line(i), i["unstretched_length"], load, x)
    slope = np.gradient(hung.height, x, edge_order=2)
    pull = hung.haul * (np.cos(hung.way) + np.sin(hung.way) * slope) / load
    run = rope_run.gravity_run(x, slope, pull, i["carriage_mass"], rolling=i.get("rolling_coefficient", 0.0))
    return {"max_speed": run.fastest, "turning_x": run.stops_at}


def end_buffer(i: Inputs) -> Outputs:
    caught = rope_run.end_buffer(i["mass"], i["speed"], i["spring_rate"], i.get("driving_force", 0.0))
    return {"stroke": caught.stroke, "peak_force": caught.force, "peak_deceleration": caught.slows}


def pendulum_swing(i: Inputs) -> Outputs:
    said = str(i["profile"]).lower()
    named = {
        "const": rope_run.STEADY,
        "half": rope_run.COSINE,
        "cyc": rope_run.CYCLOID,
        "lin": rope_run.STEADY,
        "trap": rope_run.STEADY,
    }
    shape = next((shape for start, shape in named.items() if said.startswith(start)), said)
    return {
        "residual_amplitude": degrees(
            rope_run.swing_left(i["final_speed"], i["ease_time"], i["pendulum_length"], shape)
        )
    }


def ramp_swing(i: Inputs) -> Outputs:
    return {"theta_res": rope_run.swing_left(i["a"] * i["tau"], i["tau"], i["l"], rope_run.STEADY)}


def twin_rope_roll(i: Inputs) -> Outputs:
    line, mass, at = _line(i), i["carriage_mass"], i["carriage_x_from_A"]
    length, _ = rope.bare_length(line, float(i.get("bare_horizontal_tension_each", nan)))
    half = mass * GRAVITY / 2
    hung = rope.rolling(line, length, half * np.array([0.99, 1.01]), at)
    rate = 0.02 * half / float(hung.sag[1] - hung.sag[0])
    rolled = rope_run.twin_roll(
        mass * GRAVITY * i["cg_sideways_offset"], rate, i["rope_spacing"], mass, i["cg_below_rope_plane"]
    )
    return {"vertical_stiffness_per_rope": rate, "roll_angle": degrees(rolled)}


def twin_rope_stability(i: Inputs) -> Outputs:
    rope_run.twin_roll(
        0.0, i["vertical_stiffness_per_rope"], i["rope_spacing"], i["carriage_mass"], i["cg_below_rope_plane"]
    )
    return {"verdict": "stable"}


ADAPTERS: dict[str, Callable[[Inputs], Outputs]] = {
    "cable_carriage": cable_carriage,
    "cable_clamped_load": cable_clamped_load,
    "tension_for_sag": tension_for_sag,
    "rope_temperature": rope_temperature,
    "rope_verdict": rope_verdict,
    "guyed_post": guyed_post,
    "gravity_run": gravity_run,
    "gravity_run_elastic": gravity_run_elastic,
    "end_buffer": end_buffer,
    "pendulum_swing": pendulum_swing,
    "ramp_swing": ramp_swing,
    "twin_rope_roll": twin_rope_roll,
    "twin_rope_stability": twin_rope_stability,
}
