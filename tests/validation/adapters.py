"""One adapter a topic: unpack inputs, call the core, name the outputs. No physics here."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from math import degrees, inf, nan, pi, radians
from typing import Any

import numpy as np

from hazel_lantern.core.mechanics import (
    arcs,
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
    pins,
    platform,
    rails,
    rigging,
    rolling,
    rope,
    rope_run,
    rotor,
    sections,
    ties,
    vibration,
    wheel_pairs,
)
from hazel_lantern.core.motion import (
    belts,
    by_hand,
    drives,
    drums,
    gears,
    lapse,
    pulses,
    ratios,
    screws,
    sectors,
    shapes,
    sources,
)
from hazel_lantern.core.motion.keyframes import flow
from hazel_lantern.core.nouns.errors import InfeasibleError, SingularModelError
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.optics import flicker, lens, pose, screen
from hazel_lantern.core.proving import along, bending, drift, repeats, shaken, spin, swings
from hazel_lantern.core.workshop import cutting, marks, money, schedule
from hazel_lantern.core.workshop import tiling as tiles

Inputs = dict[str, Any]
Outputs = dict[str, Any]


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


def profile(i: Inputs) -> Outputs:
    most = shapes.peaks(i["kind"], i.get("beta", 0.35), i["S"], i["T"])
    return {"v": most.speed, "a": most.acceleration, "j": most.jerk}


def jerk_limited(i: Inputs) -> Outputs:
    found = shapes.jerk_limited(i["S"], i["V"], i["A"], i["J"])
    return {"T": found.time, "v_peak": found.speed, "a_peak": found.acceleration}


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


def cutting_(i: Inputs) -> Outputs:
    stocks = [
        cutting.Stock(length, price, None if available is None else int(available))
        for length, price, available in i["stocks"]
    ]
    plan = cutting.exact(
        [(length, int(n)) for length, n in i["parts"]], stocks, i.get("kerf", 0.0), i.get("trim_total", 0.0)
    )
    return {"cost": plan.cost, "bound": plan.bound}


def fractions(i: Inputs) -> Outputs:
    answer: Outputs = {
        "text": marks.tape_text(i["x"], int(i["denominator"])),
        "rounding_error": (marks.to_tape(i["x"], int(i["denominator"])) - i["x"]) * 1e3,
    }
    if i.get("pitch") is not None:
        datum, chain = marks.last_mark_errors(i["pitch"], int(i["n"]), int(i["denominator"]))
        answer |= {"last_mark_error_datum": datum * 1e3, "last_mark_error_chain": chain * 1e3}
    return answer


def pin(i: Inputs) -> Outputs:
    p = pins.pin(i["F"], i["d"], i["t_mid"], i["t_side"], i.get("gap", 0.0), i.get("thread_pitch_in_plane"))
    return {"tau": p.shear / 1e6, "bearing_mid": p.bearing_middle / 1e6, "M": p.moment, "sigma_b": p.bending / 1e6}


def camera_screw(i: Inputs) -> Outputs:
    reach, verdict = pins.camera_screw(i["screw_length"], i["stack"], i.get("socket_depth", 6.5e-3))
    return {"engagement": reach * 1e3, "verdict": verdict}


def view(i: Inputs) -> Outputs:
    q = i.get("squeeze", 1.0)
    wide = lens.field(i["w"], i["f"], i["D"], squeeze=q)
    answer: Outputs = {
        "aov_h": degrees(lens.angle_of_view(i["w"], i["f"], q)),
        "aov_v": degrees(lens.angle_of_view(i["h"], i["f"])),
        "field_w": wide,
        "field_h": lens.field(i["h"], i["f"], i["D"]),
    }
    return answer | ({"obj_mm_per_px": wide / i["px_wide"] * 1e3} if i.get("px_wide") is not None else {})


def flex_pixels(i: Inputs) -> Outputs:
    focal = lens.focal_pixels(i["f"], i["W"], i["w"])
    sag, corner = (
        screen.shift(focal, i["sag"], i["D"]),
        [c - s / 2 for c, s in zip(i["corner"], (i["W"], i["H"]), strict=True)],
    )
    moved = np.array(screen.pitched_point(focal, i["pitch"], *corner)) - corner
    return {
        "sag_px": sag,
        "sag_pct_h": sag / i["H"] * 100,
        "pitch_px_centre": abs(screen.turn_shift(focal, i["pitch"])),
        "pitch_px_corner": float(np.hypot(*moved)),
        "roll_px_corner": screen.roll_shift(i["roll"], float(np.hypot(*corner))),
    }


def focus(i: Inputs) -> Outputs:
    near, far = lens.sharp_range(i["f"], i["N"], i["coc"], i["D"])
    return {"H": lens.hyperfocal(i["f"], i["N"], i["coc"]), "near": near, "far": far}


def parallax(i: Inputs) -> Outputs:
    ends = [screen.reveal_at((i["x_edge"], i["D_edge"]), (x, i["D_obj"])) for x in i["x_obj"]]
    focal = lens.focal_pixels(i["f"], i["W"], i["w"])
    return {
        "parallax": screen.parallax(focal, i["D_edge"], i["D_obj"]),
        "slide": abs(ends[1] - ends[0]),
        "x_start": ends[0],
        "x_end": ends[1],
    }


def keyframes(i: Inputs) -> Outputs:
    made = flow(i["t"], i["s"])
    place, speed = made.at(np.array(i["query"]))
    return {"v_knots": made.v, "s_query": place, "v_query": speed, "a_peak": made.peak_acceleration}


def orbit_image(i: Inputs) -> Outputs:
    speed = screen.orbit_speed(
        lens.focal_pixels(i["f"], i["W"], i["w"]), radians(i["arc"]) / i["T"], i["R"], i["D_background"]
    )
    p = screen.pace(speed, i["W"], i["fps"], i["fps"], radians(i["shutter"]))
    return {"px_s": p.speed, "px_frame": p.gap, "blur": p.blur, "T_cross": p.crossing}


def overhead_cover(i: Inputs) -> Outputs:
    wide, tall = (lens.field(i[side], i["f"], i["D"]) for side in ("w", "h"))
    cover = screen.cover(i["bench"], wide, i["overlap"])
    return {
        "field_w": wide,
        "field_h": tall,
        "shots": cover.frames,
        "travel": cover.travel,
        "field_w_at_obj": screen.at_height(wide, i["D"], i.get("h_obj", 0.0)),
    }


def in_frame(i: Inputs) -> Outputs:
    matrix = pose.axes(radians(i["pan"]), radians(i["tilt"]))
    a, b = pose.camera_points(matrix, np.array(i["C"]), np.array([i["A"], i["B"]]))
    part = pose.clip(a, b, i["w"] / (2 * i["f"]), i["h"] / (2 * i["f"]), near=i.get("near", pose.NEAR))
    return {"visible": part is not None, "t0": part[0] if part else None, "t1": part[1] if part else None}


def look_at(i: Inputs) -> Outputs:
    pan, tilt = pose.look_at(np.array([i["C"]]), np.array(i["target"]))
    place, turn = pose.y_up(np.array(i["C"]), pose.axes(pan[0], tilt[0], radians(i.get("roll", 0.0))))
    return {"pan": degrees(pan[0]), "tilt": degrees(tilt[0]), "translation": place, "rotation_xyzw": turn}


def overcrank(i: Inputs) -> Outputs:
    speed = screen.shift(lens.focal_pixels(i["f"], i["W"], i["w"]), i["v"], i["D"])
    p = screen.pace(speed, i["W"], i["fps_capture"], i["fps_play"], radians(i["shutter"]))
    slow = screen.slowed(i["fps_capture"], i["fps_play"])
    return {
        "screen_duration": i["S"] / i["v"] / slow,
        "px_frame": p.gap,
        "gap_pct": p.gap / i["W"] * 100,
        "blur_px": p.blur,
        "T_cross_screen": p.crossing,
        "apparent_speed": i["v"] * slow,
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


def wheel_step_gap(i: Inputs) -> Outputs:
    answer: Outputs = {}
    if i.get("step_height") is not None:
        s = rolling.step(i["wheel_diameter"], i["step_height"], i["speed"], i.get("wheel_load", 0.0))
        answer |= {"step_rise_time": s.rise, "step_kick_speed": s.kick, "climb_force": s.climb}
        if i.get("allowed_kick_speed") is not None:
            answer["min_diameter_for_step"] = rolling.wheel_for_step(
                i["step_height"], i["speed"], i["allowed_kick_speed"]
            )
    if i.get("gap_width") is not None:
        g = rolling.gap(i["wheel_diameter"], i["gap_width"], i["speed"])
        answer |= {"gap_dip": g.depth, "gap_kick_speed": g.kick}
    return answer


def transmissibility(i: Inputs) -> Outputs:
    ratio = vibration.transmissibility(i["excitation_frequency"], i["natural_frequency"], i["damping_ratio"])
    return {
        "transmissibility": ratio,
        "camera_amplitude": ratio * i.get("base_amplitude", 0.0),
        "settle_time_2_percent": vibration.settle_time(i["natural_frequency"], i["damping_ratio"]),
    }


def joint_kick(i: Inputs) -> Outputs:
    k = vibration.kick(i["kick_speed"], i["natural_frequency"], i["damping_ratio"])
    return {"spring_stroke": k.stroke, "peak_acceleration": k.acceleration}


def resonance_table(i: Inputs) -> Outputs:
    found = vibration.clashes(
        [(n, w, int(o)) for n, w, o in i["lines"]], [tuple(m) for m in i["modes"]], i["speed_min"], i["speed_max"]
    )
    return {"critical_speeds_in_range_sorted": [c.speed for c in found]}


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


def pipe_on_ties(i: Inputs) -> Outputs:
    w = ties.wave(i["wheel_load"], i["tie_spacing"], i["EI"])
    found = {"sag_mid_inner_span": w.inner, "sag_mid_end_span": w.end}
    if "allowed_wave" in i:
        found["max_tie_spacing_inner"] = ties.widest_spacing(i["wheel_load"], i["allowed_wave"], i["EI"])
    return found


def ties_lift_off(i: Inputs) -> Outputs:
    places = [n * i["tie_spacing"] for n in range(int(i["ties"]))]
    wheels = [tuple(i[name]) for name in ("wheel_1", "wheel_2") if i.get(name)]
    made = ties.laid(
        places,
        i["support_stiffness"],
        i["EI"],
        i.get("self_weight", 0.0),
        wheels,
        held=bool(i.get("ties_hold_down", False)),
    )
    found: Outputs = {f"deflection_at_wheel_{n}": float(sag) for n, sag in enumerate(made.sag, 1)}
    return {**found, "ties_lifted": list(made.lifted)}


def wheel_pair_on_pipe(i: Inputs) -> Outputs:
    p = wheel_pairs.on_pipe(
        i["pipe_diameter"],
        radians(i["contact_normal_from_vertical"]),
        i["wheel_diameter"],
        i["tread_width"],
        i["tread_centre_from_apex"],
        i["edge_margin"],
        i["pair_vertical_load"],
        i.get("pair_side_load", 0.0),
    )
    return {
        "apex_above_pipe_centre": p.apex,
        "contact_from_apex": p.contact,
        "wheel_low_edge_above_pipe_centre": p.low_edge,
        "wheel_load_high": p.more,
        "wheel_load_low": p.less,
        "min_pipe_diameter": p.smallest,
        "max_pipe_diameter": p.largest,
    }


def packing(i: Inputs) -> Outputs:
    return {"packing": ties.packing(i["station_x"], i["station_height"], i["tie_x"], level=i.get("mode") == "level")}


def dolly_tip(i: Inputs) -> Outputs:
    said = str(i.get("direction", "+x")).replace("\u2212", "-")
    ways = {"-x": (-1.0, 0.0), "+y": (0.0, 1.0), "-y": (0.0, -1.0)}
    way = next((w for name, w in ways.items() if name in said), (1.0, 0.0))
    slope = radians(i.get("uphill_slope_along_x", 0.0))
    return {"tip_acceleration": platform.tips_at(np.array(i["feet_xy"]), i["centre_of_mass"], slope, way)}


def four_wheel_rocking(i: Inputs) -> Outputs:
    r = platform.rocking(np.array(i["wheel_xy"]), i["floor_height"], i.get("com_xy", (0.0, 0.0)))
    return {"free_wheel_index": r.free, "gap_under_free_wheel": r.gap}


def plate_deck(i: Inputs) -> Outputs:
    d = platform.deck(i["point_load"], i["span"], i["width"], i["thickness"], i["E"], i.get("patch_width", 0.05))
    return {"deflection_centre": d.sag}


def orbit_forces(i: Inputs) -> Outputs:
    made = rotor.turning(i["masses"], _spin(i), i.get("reference_height", 0.0))
    return {"shaking_force": made.force, "total_overturning_moment": made.moment}


def _spin(i: Inputs) -> float:
    return float(i.get("spin", nan)) * 2 * pi / 60


def orbit_verdict(i: Inputs) -> Outputs:
    found = rotor.verdict(
        i["tip_speed"],
        i["kinetic_energy"],
        i["radial_acceleration_over_g"],
        inside=bool(i["people_inside_exclusion"]),
        drive=str(i.get("drive", "battery_limited")),
        rider=bool(i.get("rider", False)),
    )
    return {"verdict": found}


def orbit_base_tipping(i: Inputs) -> Outputs:
    stood = rotor.base_tipping(i["masses"], _spin(i), i["total_weight"], i["support_inscribed_radius"])
    return {"resultant_offset": stood.offset, "tipping_factor": stood.factor}


def coast_down(i: Inputs) -> Outputs:
    made = rotor.coast(i["inertia"], _spin(i), i["bearing_torque"], i.get("drag_torque_coefficient", 0.0))
    return {"coast_time": made.time, "coast_turns": made.turns}


def flight_screen(i: Inputs) -> Outputs:
    made = rotor.flight(_spin(i), i["tip_radius"], i["tip_height"], i.get("factor", 1.5))
    return {"tip_speed": made.speed, "flight_distance": made.distance, "exclusion_radius": made.exclusion}


def lamp_flicker(i: Inputs) -> Outputs:
    lamp = flicker.flicker(i["capture_fps"], i["exposure"], i["mains"], i["lamp_modulation"])
    made = flicker.turns(_spin(i), i["capture_fps"], i["playback_fps"], i.get("record_buffer", 0.0))
    return {
        "beat_frequency": lamp.beat,
        "exposure_ripple": lamp.ripple,
        "degrees_per_frame": degrees(made.per_frame),
        "frames_per_orbit": made.frames,
        "orbit_playback_time": made.plays,
        "angle_in_buffer": degrees(made.recorded),
    }


def three_run_balance(i: Inputs) -> Outputs:
    trials = (i["amplitude_trial_0"], i["amplitude_trial_120"], i["amplitude_trial_240"])
    found = rotor.three_runs(i["amplitude_no_trial"], trials, i["trial_unbalance"])
    return {"original_unbalance": found.unbalance, "heavy_side_angle": degrees(found.angle)}


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


def curved_track(i: Inputs) -> Outputs:
    arc = arcs.arc_through(i["chord"], i["mid_ordinate"])
    inner, outer = arcs.rails_of(arc.radius, arc.angle, i["gauge"])
    answer: Outputs = {
        "radius": arc.radius,
        "arc_angle": degrees(arc.angle),
        "inner_length": inner,
        "outer_length": outer,
    }
    if "bow_chord" in i:
        bent = arcs.bow(i["pipe_length"], i["bow_chord"], i["EI"])
        answer |= {"bow_string_tension": bent.pull, "bow_rise": bent.rise, "bow_max_curvature": bent.curved}
    if "held_radius" in i:
        held = arcs.tie_forces(i["EI"], i["held_radius"], i["tie_spacing"])
        answer |= {"end_tie_force": held.end, "second_tie_force": held.second}
    return answer


def bogies(i: Inputs) -> Outputs:
    radius, spacing = i["track_radius"], i["bogie_spacing"]
    made = arcs.bogies(radius, spacing, i.get("axle_spacing_in_bogie", 0.0), i["gauge"])
    camera = arcs.camera_radius(
        radius, spacing, i.get("camera_outward_offset", 0.0), i.get("camera_forward_offset", 0.0)
    )
    off = i.get("subject_offset_from_arc_centre", 0.0)
    return {
        "bogie_angle": degrees(made.turns),
        "scrub_angle": degrees(made.scrubs),
        "gauge_growth": made.gives,
        "camera_radius": camera,
        "subject_distance_min": camera - off,
        "subject_distance_max": camera + off,
    }


def motor_torque(i: Inputs) -> Outputs:
    up = i["direction"] > 0
    load = drives.linear_effort(i["m"], radians(i["slope"]), i["a"], i["c_rr"], uphill=up)
    given = drives.chain((drives.Stage(i["i"], i["eta"]),), i["p_rev"])
    return {"F_load": load, "T_motor": float(drives.source_torque(given, load, i["a"], i["J_m"]))}


def backlash(i: Inputs) -> Outputs:
    play = drives.lost_motion(drives.chain([drives.Stage(ratio, play=free) for ratio, free in i["stages"]]))
    return {"b_out": play, "tip": play * i["arm"]}


def lead_screw(i: Inputs) -> Outputs:
    thread = screws.Thread(i["lead"], i["d_m"], radians(i["half_angle"]), i["mu"])
    found = screws.driven(thread, i["F"])
    return {"T_raise": found.against, "T_lower": found.back, "eta": found.efficiency, "self_lock": found.back > 0}


def cord_drum(i: Inputs) -> Outputs:
    found = drums.wound(drums.Drum(i["D0"], i["W"], i["d_cord"], i["pack"]), i["L"])
    speed = i["rpm"] / 60
    return {
        "turns": found.turns,
        "r_last": found.last,
        "v_first": speed * found.first_turn,
        "v_last": speed * found.last_turn,
    }


def belt(i: Inputs) -> Outputs:
    wheels = i["z1"] * i["pitch"] / pi, i["z2"] * i["pitch"] / pi
    return {
        "L_at_C0": belts.belt_length(*wheels, i["C0"]),
        "C": belts.belt_centres(*wheels, i["belt_teeth"] * i["pitch"]),
    }


def chain(i: Inputs) -> Outputs:
    found = belts.sprocket(i["z"], i["pitch"])
    return {"v_mean": found.travel * i["rpm"] / 60, "ripple": found.ripple, "pitch_diameter": found.diameter}


def stepper(i: Inputs) -> Outputs:
    motor = sources.Stepper(i["T_h"], i["I"], i["R"], i["L"], i["V"], i.get("steps", 200))
    return {"T_pullout": float(sources.pull_out(motor, i["rpm"] * pi / 30))}


def sector_gear(i: Inputs) -> Outputs:
    found, sweep = (
        sectors.sector(i["z_eq"], i["z_pinion"], radians(i["sweep"]), i["m"]),
        radians(i["sweep"]),
    )
    turning = i["rpm_pinion"] * pi / 30 * found.ratio
    return {
        "teeth": found.teeth,
        "R_pitch": found.radius,
        "v_tip": turning * i["arm"],
        "t_sweep": sweep / turning if turning else inf,
    }


def pulses_(i: Inputs) -> Outputs:
    given = drives.chain((drives.Stage(i["i"]),), i["p_rev"])
    each = i["steps_per_rev"] * i["microsteps"] / (2 * pi) * given.per_output
    found = pulses.pulses(i["S"], i["T"], each, shapes.shape(shapes.QUINTIC))
    return {"n_pulses": found.count, "f_max": found.fastest, "t_first": found.first, "microstep": found.step}


def step_band(i: Inputs) -> Outputs:
    low, high = pulses.shaken(i["step"], i["px_per_m"], i["f_n"], i["p_tol"])
    return {"f_low": low, "f_high": high}


def ratio_window(i: Inputs) -> Outputs:
    found = ratios.window(i["n_lo"] * pi / 30, i["n_hi"] * pi / 30, i["output_revs"], i["durations"], i["c_v"])
    return {"i_min": found.least, "i_max": found.most, "one_ratio_enough": found.one, "settings": found.settings}


def train_search(i: Inputs) -> Outputs:
    found = ratios.trains(map(int, i["tooth_set"]), i["target"], i["tol"], int(i["max_stages"]), i["r_max"])
    if not found.trains:
        return {"count_at_min_stages": 0}
    best = found.trains[0]
    return {
        "stages": len(best.drivers),
        "sum_teeth": best.teeth,
        "ratio": best.ratio,
        "drivers": list(best.drivers),
        "driven": list(best.driven),
        "count_at_min_stages": found.count,
    }


def change_gears(i: Inputs) -> Outputs:
    low, high = map(int, i["sum_range"])
    found = ratios.change_gears(i["ratios"], i["tol"], (low, high), int(i["z_min"]), int(i["z_max"]))
    return {"gears_needed": len(found.gears), "sum_teeth": found.teeth}


def spur_pair(i: Inputs) -> Outputs:
    one, other = (gears.gear(i["m"], i[f"z{n}"], radians(i["alpha"]), i[f"x{n}"], i["backlash_j"]) for n in (1, 2))
    found = gears.pair(one, other)
    return {
        "a_w": found.apart,
        "alpha_w": degrees(found.angle),
        "eps": found.contact,
        "da1": 2 * found.first.tip,
        "df1": 2 * found.first.root,
        "s_a1": found.first.land,
    }


def gear_outline_area(i: Inputs) -> Outputs:
    made = gears.gear(i["m"], i["z"], radians(i["alpha"]), i["x"], i["backlash_j"])
    x, y = gears.outline(made, 1e-6).T
    return {"area": 0.5e6 * float(x @ np.roll(y, -1) - y @ np.roll(x, -1))}


def time_lapse(i: Inputs) -> Outputs:
    shares = np.arange(int(i["N"])) / max(1, int(i["N"]) - 1)
    places = i["S"] * shapes.shape(i["kind"], i.get("beta", 0.35)).share(shares)
    found = lapse.shoot_move_shoot(
        places, i["interval"], i["exposure"], i["settle"], i["dead"], i["fps"], i["A"], i["V"]
    )
    return {
        "step_max": found.step,
        "move_time": found.moving,
        "slack": found.left,
        "total": found.total,
        "playback": found.playback,
        "I_min": found.least,
        "error": "INTERVAL_TOO_SHORT" if found.left < 0 else "",
    }


def tiling(i: Inputs) -> Outputs:
    made = tiles.tiling(i["w"], i["h"], tuple(i["page"]), i["margin"], i["overlap"])
    scale = tiles.corrected(1.0, i["bar_measured"], i["bar_nominal"])
    return {
        "pages": made.pages,
        "cols": made.columns,
        "rows": made.rows,
        "orientation": "landscape" if made.turned else "portrait",
        "scale": scale,
    }


def _chance(count: int, seed: int) -> np.ndarray:
    """The cases' own generator, of spread one."""
    state, made = seed, np.empty(count)
    for n in range(count):
        state = (1664525 * state + 1013904223) % 2**32
        made[n] = (state / 2**32 - 0.5) * np.sqrt(12)
    return made


def accelerometer_log(i: Inputs) -> Outputs:
    if i.get("samples") is not None and not isinstance(i["samples"], (int, float)):
        rows = np.asarray(i["samples"], float)
        log = shaken.even(rows[:, 0], rows[:, 1:])
    else:
        fs, seed = float(i["sampling"]), int(i["seed"])
        n = int(i["samples"]) if i.get("samples") is not None else round(fs * i["duration"])
        t = np.arange(n) / fs + i.get("time_jitter", 0.0) / fs * _chance(n, seed + 1) / np.sqrt(3)
        a = i["noise_rms"] * _chance(n, seed) + i.get("trend", 0.0) * t
        for size, hz, phase in i["sines_amp_freq_phase"]:
            a = a + size * np.sin(2 * pi * hz * t + phase)
        if i.get("dropped_interval"):
            low, high = i["dropped_interval"]
            t, a = t[(t < low) | (t > high)], a[(t < low) | (t > high)]
        log = shaken.even(t, a)
    found = shaken.spectrum(log)
    lines = shaken.peaks(found, log.trusted, [(name, float(hz)) for name, hz in i["predicted_lines"]])
    return {
        "peak_frequencies_by_amplitude": [one.frequency for one in lines],
        "peak_amplitudes": [one.amplitude for one in lines],
        "culprits": [one.causes[0] if one.causes else "unknown" for one in lines],
        "band_rms": shaken.band_rms(found, *i["band"]),
    }


def reversed_level(i: Inputs) -> Outputs:
    found = along.reversed_level(i["reading_1"], i["reading_turned"], i["base_length"])
    return {"slope": found.slope, "level_error": found.error, "packing_low_end": found.packing}


def roll_tests(i: Inputs) -> Outputs:
    made: Outputs = {}
    if "rise_starts" in i:
        made["starting_coefficient"] = along.roll_angle(i["rise_starts"], i["rail_length"])
    if "rise_keeps" in i:
        made["rolling_coefficient"] = along.roll_angle(i["rise_keeps"], i["rail_length"])
    if "run_time" in i:
        made["coefficient_from_timed_run"] = along.timed_roll(
            radians(i["run_angle"]), i["run_distance"], i["run_time"], i.get("inertia_factor", 1.0)
        )
    return made


def bounce_test(i: Inputs) -> Outputs:
    found = swings.swung(i["cycles"], i["time"], i["first_amplitude"], i["last_amplitude"])
    made = {"natural_frequency": found.frequency, "damping_ratio": found.damping}
    if "moving_mass" in i:
        made["stiffness"] = found.stiffness(i["moving_mass"])
    if "predicted_frequency" in i:
        made["EI_scale_factor"] = found.factor(i["predicted_frequency"])
    return made


def sag_test(i: Inputs) -> Outputs:
    found = bending.sagged(i["spans"], i["added_load"], i["measured_drop"])
    return {"EI": found.ei, "support_stiffness": found.supports}


def pull_test(i: Inputs) -> Outputs:
    found = along.pulls(i["station_x"], i["pull_forward"], i["pull_backward"], i["weight"])
    at = int(np.argmax(np.where(found.binds, found.coefficients, -inf))) if found.binds.any() else None
    rubs = None if at is None else float(found.coefficients[at])
    return {
        "median_friction": float(np.median(found.coefficients)),
        "bind_station_index": at,
        "friction_at_bind": rubs,
        "end_height_from_slopes": float(found.heights[-1]),
    }


def coast_down_fit(i: Inputs) -> Outputs:
    drag = i.get("drag", True)
    found = spin.slowed(i["turn_marks_time"], i["inertia"], drag=drag not in (False, 0, "none", "no", "without"))
    return {"bearing_torque": found.friction, "drag_coefficient": found.drag}


def combine_measurements(i: Inputs) -> Outputs:
    found = repeats.combined(i["values"], i["standard_uncertainties"])
    verdict = "contradictory" if found.contradicts else "accept" if found.ratio <= repeats.AGREES else "inflate"
    return {
        "weighted_mean": found.value,
        "birge_ratio": found.ratio,
        "inflated_uncertainty": found.doubt,
        "verdict": verdict,
    }


def drift_test(i: Inputs) -> Outputs:
    angles = [radians(a) for a in i["angle"]]
    found = drift.drift(
        angles,
        i.get("hold_force_perpendicular_up_at_camera_end", i.get("hold_force")),
        i["hold_radius"],
        i.get("scale_step", 0.0),
    )
    mend = drift.correction(found.along, found.above, i["counterweight_mass"], i["counterweight_radius"])
    return {
        "Sx": found.along,
        "Sz": found.above,
        "add_counterweight": mend.add * 1e3,
        "slide_counterweight_out": mend.slide_out * 1e3,
        "move_counterweight_across": mend.across * 1e3,
        "outlier_index": found.dropped,
    }


def repeatability(i: Inputs) -> Outputs:
    sure = i.get("confidence", repeats.SURE)
    odd = repeats.outlier(i["readings"], sure)
    kept = [one for n, one in enumerate(i["readings"]) if n != odd.index]
    found = repeats.mean(kept, sure)
    made = {
        "outlier_index": odd.index if odd.index >= 0 else None,
        "grubbs_critical": odd.critical,
        "mean": found.value,
        "half_width": found.half_width,
        "standard_deviation": found.spread,
        "prediction_half_width": found.next_within,
    }
    if "wanted_half_width" in i:
        made["repeats_needed"] = repeats.repeats_for(found.spread, i["wanted_half_width"], sure)
    return made


def buy_list(i: Inputs) -> Outputs:
    lines = [money.Wanted(*line) for line in i["lines"]]
    found = money.summed(lines, i["tax"])
    days = money.pays_from(
        found.gross,
        i["hire_day"],
        i.get("hire_week"),
        i.get("hire_fixed") or 0.0,
        i.get("resale") or 0.0,
        i.get("own_day") or 0.0,
    )
    return {
        "packs": list(found.packs),
        "net": found.net,
        "tax_amount": found.tax,
        "gross": found.gross,
        "break_even_days": days,
        "leftover_value": found.left_worth,
    }


def build_plan(i: Inputs) -> Outputs:
    tasks = [schedule.Task(key, work, wait, tuple(after)) for key, (work, wait, after) in sorted(i["tasks"].items())]
    known = schedule.network(tasks)
    hours = {int(day): float(long) for day, long in i["hours"].items()}
    slots = schedule.calendar(tasks, datetime.fromisoformat(i["start"]), i["day_start"], hours)
    finish = max(slot.end for slot in slots) if slots else datetime.fromisoformat(i["start"])
    return {
        "T_network": known.total,
        "slack": [known.slack[task.key] for task in tasks],
        "critical": list(known.critical),
        "finish": finish.isoformat(),
    }


def pace_strip(i: Inputs) -> Outputs:
    found = by_hand.pace_marks(shapes.shape(i["kind"], i.get("beta", 0.35)).share, i["S"], i["T"], i["dt"])
    return {"marks": found.at * 1e3, "n": len(found.at), "bpm": found.beats}


def stopwatch(i: Inputs) -> Outputs:
    found = by_hand.timed(i["commanded_speed"], i["distance"], i["times"], i["steps_per_metre"])
    return {
        "actual_speed": found.speed,
        "drive_ratio_error": found.off,
        "corrected_steps_per_metre": found.steps,
        "relative_uncertainty_95": found.uncertainty,
    }


def gear_limits(i: Inputs) -> Outputs:
    def code(shift: float) -> str:
        try:
            gears.outline(gears.gear(i["m"], i["z"], radians(i["alpha"]), shift))
        except InfeasibleError as error:
            return error.code
        return "OK"

    least = gears.gear(i["m"], i["z"], radians(i["alpha"]), 0.0).least_shift
    return {"outline_a": code(i["x_a"]), "gear_b": code(i["x_b"]), "x_min": least}


def tooth_strength(i: Inputs) -> Outputs:
    found = gears.tooth_bears(i["m"], i["b"], i["z"], i["sigma"])
    return {"Y": found.form, "F_t": found.force, "T_max": found.torque, "ok": i["T_applied"] <= found.torque}


ADAPTERS: dict[str, Callable[[Inputs], Outputs]] = {
    "ratio_window": ratio_window, "train_search": train_search, "change_gears": change_gears, "spur_pair": spur_pair,
    "gear_outline_area": gear_outline_area, "gear_limits": gear_limits, "tooth_strength": tooth_strength,
    "time_lapse": time_lapse, "pace_strip": pace_strip, "accelerometer_log": accelerometer_log,
    "reversed_level": reversed_level, "roll_tests": roll_tests, "drift_test": drift_test,
    "repeatability": repeatability, "bounce_test": bounce_test, "sag_test": sag_test, "pull_test": pull_test,
    "coast_down_fit": coast_down_fit, "combine_measurements": combine_measurements, "tiling": tiling,
    "buy_list": buy_list, "build_plan": build_plan, "stopwatch": stopwatch,
    "payload_cg": payload_cg, "rectangular_tube": lambda i: _section(sections.rectangular_tube(i["b"],
        i["h"], i["t"], i.get("r_outer", 0.0))),
    "flat_bar": lambda i: _section(sections.flat_bar(i["b"], i["h"])),
    "angle": lambda i: _section(sections.angle(i["b_horizontal"], i["h_vertical"], i["t"])),
    "channel": lambda i: _section(sections.channel(i["h"], i["b"], i["t_web"], i["t_flange"])),
    "jib_limits": jib_limits, "unequal_bars": unequal_bars, "link_forces": link_forces,
    "jib_balance": jib_balance, "plates": plates,
    "arm_modes": arm_modes, "footing": footing_, "jib_footing": jib_footing, "ballast": ballast,
    "cutting": cutting_, "fractions": fractions,
    "frame": frame_, "frame_mechanism": frame_mechanism, "rail_drop": rail_drop, "twin_rail": twin_rail,
    "rail_twist": rail_twist, "deep_beam": deep_beam,
    "carriage_wheels": carriage_wheels, "groove_preload": groove_preload, "shuttle": shuttle, "incline": incline,
    "board_beam": board_beam, "gantry": gantry,
    "boom_reach": boom_reach, "desk_frame": desk_frame, "bracket_screws": bracket_screws,
    "overhead_mount": overhead_mount,
    "tether": lambda i: {"peak_force": overhead.tether_peak(i["mass"], i["slack_drop"], i["tether_stiffness"])},
    "wheel_step_gap": wheel_step_gap,
    "stick_slip": lambda i: {"critical_speed": rolling.stick_slip(i["static_minus_kinetic_friction"],
        i["drive_stiffness"], i["mass"], i["damping_ratio"])},
    "transmissibility": transmissibility, "joint_kick": joint_kick, "resonance_table": resonance_table,
    "cable_stay": cable_stay, "levelling_cable": levelling_cable,
    "pin": pin, "camera_screw": camera_screw, "view": view,
    "flex_pixels": flex_pixels, "focus": focus, "parallax": parallax,
    "pipe_on_ties": pipe_on_ties, "ties_lift_off": ties_lift_off,
    "wheel_pair_on_pipe": wheel_pair_on_pipe, "packing": packing,
    "dolly_tip": dolly_tip, "four_wheel_rocking": four_wheel_rocking, "plate_deck": plate_deck,
    "orbit_forces": orbit_forces, "orbit_verdict": orbit_verdict, "orbit_base_tipping": orbit_base_tipping,
    "coast_down": coast_down,
    "flight_screen": flight_screen, "flicker": lamp_flicker, "three_run_balance": three_run_balance,
    "cable_carriage": cable_carriage, "cable_clamped_load": cable_clamped_load, "tension_for_sag": tension_for_sag,
    "rope_temperature": rope_temperature, "rope_verdict": rope_verdict, "guyed_post": guyed_post,
    "gravity_run": gravity_run,
    "gravity_run_elastic": gravity_run_elastic, "end_buffer": end_buffer, "pendulum_swing": pendulum_swing,
    "ramp_swing": ramp_swing,
    "curved_track": curved_track, "bogies": bogies, "twin_rope_roll": twin_rope_roll,
    "twin_rope_stability": twin_rope_stability,
    "profile": profile, "jerk_limited": jerk_limited, "keyframes": keyframes,
    "orbit_image": orbit_image, "overhead_cover": overhead_cover, "in_frame": in_frame,
    "look_at": look_at, "overcrank": overcrank,
    "motor_torque": motor_torque,
    "backlash": backlash,
    "lead_screw": lead_screw,
    "cord_drum": cord_drum,
    "belt": belt,
    "chain": chain,
    "stepper": stepper,
    "sector_gear": sector_gear,
    "pulses": pulses_,
    "step_band": step_band,
}  # fmt: skip
