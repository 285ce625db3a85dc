"""Standing still: sections, frames, rails, balance and footing, and what holds them."""

from __future__ import annotations

from collections.abc import Callable
from math import inf
from typing import Any

import numpy as np

from hazel_lantern.core.mechanics import (
    balance,
    beam,
    built_up,
    cables,
    carriage,
    footing,
    frame,
    frame_loads,
    linkage,
    overhead,
    payload,
    rails,
    sections,
)
from hazel_lantern.core.nouns.errors import SingularModelError
from hazel_lantern.core.nouns.units import GRAVITY
from tests.validation.adapters.given import Inputs, Outputs


def payload_cg(i: Inputs) -> Outputs:
    p = payload.payload(i["item_mass"], i["item_cg_xyz"], i.get("mass_pm"), i.get("cg_pm_xyz"))
    return {"total_mass": p.mass, "cg_xyz": p.cg, "cg_pm_rss_xyz": p.cg_rss, "cg_pm_worst_xyz": p.cg_worst}


def _section(s: sections.Section) -> Outputs:
    return {"A": s.area, "Iy": s.iy, "Iz": s.iz, "J": s.j, "Iyz": s.iyz, "yb": s.yb, "zb": s.zb}


def jib_limits(i: Inputs) -> Outputs:
    found = linkage.jib_limits(
        i["pivot_height"],
        i["front_length"],
        i["rear_length"],
        i.get("head_lowest_below_pin", 0.0),
        i.get("counterweight_radius", 0.0),
        i.get("ground_clearance", 0.0),
        i["post_spacing"],
        i["bar_depth_lower"],
        i["bar_depth_upper"],
    )
    span = (i["front_length"], found.low, found.high)
    return {
        "angle_min": found.low,
        "angle_max": found.high,
        "height_travel": linkage.height_travel(*span),
        "arc_shift": linkage.arc_shift(*span),
    }


def unequal_bars(i: Inputs) -> Outputs:
    return {
        "head_tilt_nose_up": linkage.head_tilt(
            i["arm_angle"],
            i["L_lower"],
            i["L_upper"],
            i["post_spacing"],
            i["head_spacing"],
            i.get("post_lean_nose_up", 0.0),
        )
    }


def link_forces(i: Inputs) -> Outputs:
    upper, lower, _ = linkage.link_forces(
        i["arm_angle"],
        i["pivot_spacing"],
        i["head_weight"],
        i["cg_ahead_of_pin"],
        i.get("cg_above_pin", 0.0),
        i.get("forward_push_at_cg", 0.0),
    )
    return {"upper_bar_compression": upper, "lower_bar_compression": lower}


def jib_balance(i: Inputs) -> Outputs:
    masses = [*_list(i["arm_fixed_mass"]), *_list(i.get("head_mass", []))]
    pins_at = [(i.get("head_pin_s", 0.0), 0.0)] * len(_list(i.get("head_mass", [])))
    along, above = balance.static_moments(np.array(masses), np.array([*i["arm_fixed_s_n"], *pins_at]))
    arm = balance.Arm(along, above, i.get("friction_moment", 0.0))
    return {
        "moment_front_up": balance.front_up_moment(arm, np.asarray(i.get("arm_angle", 0.0))),
        "equilibrium_angle": balance.equilibrium(arm),
        "self_righting": balance.self_righting(arm),
        "stay_put_intervals": balance.stay_put(arm, *i["angle_range"]),
    }


def _list(value: Any) -> list[Any]:
    return list(value) if isinstance(value, (list, tuple)) else [value]


def plates(i: Inputs) -> Outputs:
    rack = balance.choose_weights(i["front_static_moment"], i["owned_weights"], i["slide_min"], i["slide_max"])
    return {
        "chosen_weights": [i["owned_weights"][k] for k in rack.chosen],
        "slide_position": rack.place,
        "slide_per_payload_gram": i.get("front_length", 0.0) / rack.mass / 1e3,
    }


def arm_modes(i: Inputs) -> Outputs:
    line = beam.arm_weight(i["front_arm_mass"], i["front_length"])
    load = i["tip_mass"] * GRAVITY
    return {
        "front_tip_sag": beam.tip_sag(i["EI"], i["front_length"], load, line),
        "pivot_moment": beam.root_moment(i["front_length"], load, line),
        "f1_front_clamped": beam.clamped_frequency(i["EI"], i["front_length"], i["tip_mass"], i["front_arm_mass"]),
        "f1_balanced": beam.balanced_frequency(
            i["EI"],
            i["front_length"],
            i["rear_length"],
            i["tip_mass"],
            i["front_arm_mass"],
            i["counterweight_mass"],
            i["rear_arm_mass"],
        ),
    }


def footing_(i: Inputs) -> Outputs:
    found = footing.footing(i["contact_points_xy"], i["body_mass"], i["body_cg"], i.get("force_and_point") or ())
    answer: Outputs = {"margin_distance": found.distance, "safety_factor": found.factor}
    if i.get("knock_height") is not None:
        answer["knock_force_to_tip"] = found.knock(i["knock_height"])
    return answer


def jib_footing(i: Inputs) -> Outputs:
    slew = footing.worst_slew(
        i["contact_points_xy"],
        i.get("fixed_mass") or (),
        i.get("fixed_cg") or (),
        i.get("slew_axis_xy") or (0.0, 0.0),
        i["rotating_mass"],
        i["rotating_cg_arm_frame"],
        i.get("rotating_force_and_point") or (),
        i.get("slew_range"),
    )
    return {"worst_slew_angle": slew.angle, "worst_margin_moment": slew.moment, "worst_margin_distance": slew.distance}


def ballast(i: Inputs) -> Outputs:
    return {
        "ballast_mass": footing.ballast(
            i["contact_points_xy"],
            i["body_mass"],
            i["body_cg"],
            i.get("force_and_point") or (),
            i["ballast_position"],
            i["required_factor"],
        )
    }


def _support(held: Any) -> frame.Support:
    fixed, springs = (held, {}) if isinstance(held, list) else (held.get("fixed", []), held.get("springs", {}))
    return frame.Support(
        tuple(frame.DOFS.index(d) for d in fixed), tuple((frame.DOFS.index(d), k) for d, k in springs.items())
    )


def frame_(i: Inputs) -> Outputs:
    elements = [
        frame.Element(
            m["name"],
            m["i"],
            m["j"],
            m["E"] * m["A"],
            m["E"] * m["Iy"],
            m["E"] * m["Iz"],
            m["G"] * m["J"],
            roll=m.get("roll", 0.0),
            released=tuple(m.get("released_local_dofs", ())),
        )
        for m in i["members"]
    ]
    made = frame.frame(i["nodes"], elements, {name: _support(held) for name, held in i["supports"].items()})
    none = (0.0, 0.0, 0.0)
    points = [
        (0, made.element(l["member"]), l["a"], l.get("F", none), l.get("M", none))
        for l in i["loads"]
        if l["type"] == "member_point_global"
    ]
    spread = [(0, made.element(l["member"]), l["q"]) for l in i["loads"] if l["type"] == "udl_global"]
    nodes = [
        (0, made.node(l["node"]), (*l.get("F", none), *l.get("M", none))) for l in i["loads"] if l["type"] == "node"
    ]
    found = frame_loads.solve(made, frame_loads.loads(1, points, spread, nodes))
    moved, pushed = found.displacements[:, 0].reshape(-1, 6), found.reactions[:, 0].reshape(-1, 6)
    answer: Outputs = {}
    for name in i["nodes"]:
        at = made.node(name)
        answer |= {
            f"{name}_displacement": moved[at, :3],
            f"{name}_rotation": moved[at, 3:],
            f"{name}_reaction": pushed[at, :3],
            f"{name}_moment": pushed[at, 3:],
        }
    return answer


def frame_mechanism(i: Inputs) -> Outputs:
    elements = [
        frame.Element(name, a, b, 1e7, 1e3, 1e3, 1e3, released=tuple(released)) for name, a, b, released in i["members"]
    ]
    made = frame.frame(i["nodes"], elements, {name: _support(held) for name, held in i["supports"].items()})
    try:
        frame_loads.solve(made, frame_loads.loads(1))
    except SingularModelError as error:
        return {"error": "SingularModelError", "named_node": error.node}
    return {"error": "", "named_node": ""}


def rail_drop(i: Inputs) -> Outputs:
    springs = i.get("support_stiffness_z")
    stiffness = springs if isinstance(springs, list) else [springs] * len(i["support_positions"])
    pulls = not i.get("push_only", False)
    rests = tuple(
        rails.Rest(x, inf if k is None else k, i.get("support_pitch_stiffness", 0.0), pulls=pulls)
        for x, k in zip(i["support_positions"], stiffness, strict=True)
    )
    rail = rails.Rail(i["rail_length"], i["EI"], i["EI"], i.get("rail_weight_per_m", 0.0), rests)
    front, rear = rails.axle_loads(i["payload_weight"], i["wheelbase"], i.get("cg_offset_x", 0.0))
    t = rails.travel(rail, np.array([i["carriage_centre_x"]]), i["wheelbase"], front, rear)
    return {
        "drop_at_carriage_centre": t.drop[0],
        "pitch_nose_down": t.pitch[0],
        "reactions_up": t.reactions[0],
        "support_moment_abs": abs(t.moments[0]).max(),
        "lifted_support_index": [int(k) for k in np.flatnonzero(t.lifted[0])],
    }


def twin_rail(i: Inputs) -> Outputs:
    rail = rails.Rail(i["span"], i["EI_each_rail"], i["EI_each_rail"], 0.0, rails.end_supported(i["span"]))
    front, rear = rails.axle_loads(i["payload_weight"], i["wheelbase"])
    t = rails.twin(
        rail, i["rail_spacing"], i["cg_offset_left"], np.array([i["carriage_centre_x"]]), i["wheelbase"], front, rear
    )
    return {"share_left": t.left, "drop_mean": t.drop[0], "roll_left_up": t.roll[0]}


def rail_twist(i: Inputs) -> Outputs:
    rail = rails.Rail(i["span"], i["EI"], i["GJ"], 0.0, rails.end_supported(i["span"]))
    front, rear = rails.axle_loads(i["weight"], i["wheelbase"])
    return {
        "roll_left_up": rails.travel(
            rail, np.array([i["carriage_centre_x"]]), i["wheelbase"], front, rear, i["eccentricity_left"]
        ).roll[0]
    }


def deep_beam(i: Inputs) -> Outputs:
    s = sections.flat_bar(i["b"], i["h"])
    rail = rails.Rail(
        i["span"], i["E"] * s.iy, i["G"] * s.j, 0.0, rails.end_supported(i["span"]), i["G"] * s.area * s.shear
    )
    # One force: both axles of a very short carriage stand on one place.
    return {"deflection_under_load": rails.travel(rail, np.array([i["a"]]), 1e-7, i["P"] / 2, i["P"] / 2).drop[0]}


def carriage_wheels(i: Inputs) -> Outputs:
    pushes = [(f, r) for f, r in i.get("push_force_and_point") or ()]
    w = carriage.wheel_loads(
        i["wheel_xy"],
        i["mass"],
        i["cg"],
        i.get("acceleration_carriage_axes") or (0.0, 0.0, 0.0),
        i.get("pitch_nose_down", 0.0),
        i.get("roll_left_up", 0.0),
        pushes,
    )
    return {"normal_total": w.normal, "foot_point_xy": w.foot, "wheel_load": w.loads, "tip_margin_distance": w.margin}


def groove_preload(i: Inputs) -> Outputs:
    p = carriage.groove_preload(
        i["side_force"],
        i.get("side_force_x", 0.0),
        i["wheelbase"],
        i["vertical_load_per_wheel_FL_FR_RL_RR"],
        i["groove_half_angle"],
        i.get("rolling_coefficient", 0.0),
    )
    return {"lateral_preload_per_wheel": p.each, "drag_no_side_force": p.drag}


def shuttle(i: Inputs) -> Outputs:
    s = carriage.shuttle(
        i["weight_on_guides"],
        i.get("load_x", 0.0),
        i.get("drive_offset", 0.0),
        i["guide_length"],
        i["mu"],
        i.get("resisting_force", 0.0),
    )
    return {"jams": s.jams, "critical_offset": s.critical, "drive_force": s.force}


def incline(i: Inputs) -> Outputs:
    s = carriage.incline(i["mass"], i["slope"], i["rolling_coefficient"], i.get("run_length", 0.0))
    return {"runs_away": s.runs_away, "holding_force": s.holding, "push_up_force": s.push, "end_speed": s.end_speed}


def board_beam(i: Inputs) -> Outputs:
    joint = built_up.joint_efficiency(
        i["E_flange"], i["flange_b"] * i["flange_t"], i["screw_pitch"], i["slip_modulus_K"], i["span"]
    )
    b = built_up.board_beam(i["flange_b"], i["flange_t"], i["web_t"], i["web_h"], i["E_flange"], i["E_web"], joint)
    rail = rails.Rail(i["span"], b.eiy, b.eiy, i.get("q", 0.0), rails.end_supported(i["span"]))
    return {
        "mid_sag": rails.shape(rail, i["span"] / 2, 1e-3, 0.0, 0.0, np.array([i["span"] / 2]))[0],
        "EIy_effective": b.eiy,
    }


def gantry(i: Inputs) -> Outputs:
    b = overhead.gantry(
        i["span"],
        i["trolley_y"],
        i["boom_length"],
        i["boom_angle_from_x"],
        i["trolley_mass"],
        i["boom_mass"],
        i["payload_mass"],
        i["bridge_mass"],
    )
    return {
        "reaction_at_y0": b.near,
        "reaction_at_ySpan": b.far,
        "torsion_total": b.torsion,
        "torsion_to_end_y0": b.torsion_near,
        "uplift": b.uplift,
    }


def boom_reach(i: Inputs) -> Outputs:
    area, hole = overhead.reach_area(i["travel_x"], i["travel_y"], i["boom_max"], i.get("boom_min", 0.0))
    return {"reach_area": area, "unreachable_hole_area": hole}


def desk_frame(i: Inputs) -> Outputs:
    d = overhead.desk_frame(
        i["payload_weight"],
        i["reach_a"],
        i["post_height"],
        i["EI_boom"],
        i["EI_post"],
        i["GJ_boom"],
        i.get("end_beam_length", 0.0),
        i.get("end_beam_angle_from_x", 0.0),
        i.get("EI_end_beam", 0.0),
        i.get("base_rotation_stiffness", inf),
    )
    return {"drop_at_camera": d.drop, "base_moment_about_y_abs": d.about_y, "base_moment_about_x_abs": d.about_x}


def bracket_screws(i: Inputs) -> Outputs:
    s = overhead.bracket_screws(i["moment"], i.get("vertical_load", 0.0), i["screw_heights_above_bottom_edge"])
    return {"max_pullout": s.pull, "shear_each": s.shear, "certified": s.certified}


def overhead_mount(i: Inputs) -> Outputs:
    overhead.check_mount(i.get("mount", ""), i.get("location", ""), i["payload_mass"])
    return {"error": ""}


def cable_stay(i: Inputs) -> Outputs:
    s = cables.stayed(i["arm_length"], i["EI"], i["mast_height"], i["cable_metal_area"], i["cable_E"], i["tip_load"])
    return {"tip_sag": s.sag, "cable_tension": s.tension}


def levelling_cable(i: Inputs) -> Outputs:
    c = cables.levelling_cable(
        i["head_moment"],
        i["pulley_radius"],
        i["cable_EA"],
        i["run_length"],
        i.get("arm_angle", 0.0),
        i.get("post_pulley_radius"),
        i.get("head_pulley_radius"),
    )
    answer: Outputs = {"pretension_min": c.pretension, "stretch_tilt": c.stretch, "mismatch_tilt_nose_up": c.mismatch}
    if i.get("mu_washer") is not None:
        answer["washer_moment"] = i.get("washer_faces", 1) * balance.washer_friction(
            i["clamp_force"], i["mu_washer"], i["washer_r_in"], i["washer_r_out"]
        )
    return answer


ADAPTERS: dict[str, Callable[[Inputs], Outputs]] = {
    "payload_cg": payload_cg,
    "rectangular_tube": lambda i: _section(sections.rectangular_tube(i["b"], i["h"], i["t"], i.get("r_outer", 0.0))),
    "flat_bar": lambda i: _section(sections.flat_bar(i["b"], i["h"])),
    "angle": lambda i: _section(sections.angle(i["b_horizontal"], i["h_vertical"], i["t"])),
    "channel": lambda i: _section(sections.channel(i["h"], i["b"], i["t_web"], i["t_flange"])),
    "jib_limits": jib_limits,
    "unequal_bars": unequal_bars,
    "link_forces": link_forces,
    "jib_balance": jib_balance,
    "plates": plates,
    "arm_modes": arm_modes,
    "footing": footing_,
    "jib_footing": jib_footing,
    "ballast": ballast,
    "frame": frame_,
    "frame_mechanism": frame_mechanism,
    "rail_drop": rail_drop,
    "twin_rail": twin_rail,
    "rail_twist": rail_twist,
    "deep_beam": deep_beam,
    "carriage_wheels": carriage_wheels,
    "groove_preload": groove_preload,
    "shuttle": shuttle,
    "incline": incline,
    "board_beam": board_beam,
    "gantry": gantry,
    "boom_reach": boom_reach,
    "desk_frame": desk_frame,
    "bracket_screws": bracket_screws,
    "overhead_mount": overhead_mount,
    "tether": lambda i: {"peak_force": overhead.tether_peak(i["mass"], i["slack_drop"], i["tether_stiffness"])},
    "cable_stay": cable_stay,
    "levelling_cable": levelling_cable,
}
