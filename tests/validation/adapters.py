"""One adapter a topic: unpack inputs, call the core, name the outputs. No physics here."""

from __future__ import annotations

from collections.abc import Callable
from math import degrees, radians
from typing import Any

import numpy as np

from hazel_lantern.core.errors import SingularModelError
from hazel_lantern.core.mechanics import balance, beam, footing, frame, linkage, payload, pins, sections
from hazel_lantern.core.optics import lens, pose, screen
from hazel_lantern.core.units import GRAVITY
from hazel_lantern.core.workshop import cutting, marks

Inputs = dict[str, Any]
Outputs = dict[str, Any]


def payload_cg(i: Inputs) -> Outputs:
    p = payload.payload(i["item_mass"], i["item_cg_xyz"], i.get("mass_pm"), i.get("cg_pm_xyz"))
    return {"total_mass": p.mass, "cg_xyz": p.cg, "cg_pm_rss_xyz": p.cg_rss, "cg_pm_worst_xyz": p.cg_worst}


def _section(s: sections.Section) -> Outputs:
    return {"A": s.area, "Iy": s.iy, "Iz": s.iz, "J": s.j, "Iyz": s.iyz, "yb": s.yb, "zb": s.zb}


def jib_limits(i: Inputs) -> Outputs:
    found = linkage.jib_limits(
        i["pivot_height"], i["front_length"], i["rear_length"], i.get("head_lowest_below_pin", 0.0), i.get("counterweight_radius", 0.0),
        i.get("ground_clearance", 0.0), i["post_spacing"], i["bar_depth_lower"], i["bar_depth_upper"],
    )  # fmt: skip
    span = (i["front_length"], found.low, found.high)
    return {"angle_min": found.low, "angle_max": found.high, "height_travel": linkage.height_travel(*span), "arc_shift": linkage.arc_shift(*span)}


def unequal_bars(i: Inputs) -> Outputs:
    return {"head_tilt_nose_up": linkage.head_tilt(i["arm_angle"], i["L_lower"], i["L_upper"], i["post_spacing"], i["head_spacing"], i.get("post_lean_nose_up", 0.0))}


def link_forces(i: Inputs) -> Outputs:
    upper, lower, _ = linkage.link_forces(i["arm_angle"], i["pivot_spacing"], i["head_weight"], i["cg_ahead_of_pin"], i.get("cg_above_pin", 0.0), i.get("forward_push_at_cg", 0.0))
    return {"upper_bar_compression": upper, "lower_bar_compression": lower}


def jib_balance(i: Inputs) -> Outputs:
    masses = [*_list(i["arm_fixed_mass"]), *_list(i.get("head_mass", []))]
    pins_at = [(i.get("head_pin_s", 0.0), 0.0)] * len(_list(i.get("head_mass", [])))
    along, above = balance.static_moments(np.array(masses), np.array([*i["arm_fixed_s_n"], *pins_at]))
    arm = balance.Arm(along, above, i.get("friction_moment", 0.0))
    return {
        "moment_front_up": balance.front_up_moment(arm, np.asarray(i.get("arm_angle", 0.0))), "equilibrium_angle": balance.equilibrium(arm),
        "self_righting": balance.self_righting(arm), "stay_put_intervals": balance.stay_put(arm, *i["angle_range"]),
    }  # fmt: skip


def _list(value: Any) -> list[Any]:
    return list(value) if isinstance(value, (list, tuple)) else [value]


def plates(i: Inputs) -> Outputs:
    rack = balance.choose_weights(i["front_static_moment"], i["owned_weights"], i["slide_min"], i["slide_max"])
    return {"chosen_weights": [i["owned_weights"][k] for k in rack.chosen], "slide_position": rack.place, "slide_per_payload_gram": i.get("front_length", 0.0) / rack.mass / 1e3}


def arm_modes(i: Inputs) -> Outputs:
    line = beam.arm_weight(i["front_arm_mass"], i["front_length"])
    load = i["tip_mass"] * GRAVITY
    return {
        "front_tip_sag": beam.tip_sag(i["EI"], i["front_length"], load, line), "pivot_moment": beam.root_moment(i["front_length"], load, line),
        "f1_front_clamped": beam.clamped_frequency(i["EI"], i["front_length"], i["tip_mass"], i["front_arm_mass"]),
        "f1_balanced": beam.balanced_frequency(i["EI"], i["front_length"], i["rear_length"], i["tip_mass"], i["front_arm_mass"], i["counterweight_mass"], i["rear_arm_mass"]),
    }  # fmt: skip


def footing_(i: Inputs) -> Outputs:
    found = footing.footing(i["contact_points_xy"], i["body_mass"], i["body_cg"], i.get("force_and_point") or ())
    answer: Outputs = {"margin_distance": found.distance, "safety_factor": found.factor}
    if i.get("knock_height") is not None:
        answer["knock_force_to_tip"] = found.knock(i["knock_height"])
    return answer


def jib_footing(i: Inputs) -> Outputs:
    slew = footing.worst_slew(
        i["contact_points_xy"], i.get("fixed_mass") or (), i.get("fixed_cg") or (), i.get("slew_axis_xy") or (0.0, 0.0), i["rotating_mass"], i["rotating_cg_arm_frame"],
        i.get("rotating_force_and_point") or (), i.get("slew_range"),
    )  # fmt: skip
    return {"worst_slew_angle": slew.angle, "worst_margin_moment": slew.moment, "worst_margin_distance": slew.distance}


def ballast(i: Inputs) -> Outputs:
    return {"ballast_mass": footing.ballast(i["contact_points_xy"], i["body_mass"], i["body_cg"], i.get("force_and_point") or (), i["ballast_position"], i["required_factor"])}


def cutting_(i: Inputs) -> Outputs:
    stocks = [cutting.Stock(length, price, None if available is None else int(available)) for length, price, available in i["stocks"]]
    plan = cutting.exact([(length, int(n)) for length, n in i["parts"]], stocks, i.get("kerf", 0.0), i.get("trim_total", 0.0))
    return {"cost": plan.cost, "bound": plan.bound}


def fractions(i: Inputs) -> Outputs:
    answer: Outputs = {"text": marks.tape_text(i["x"], int(i["denominator"])), "rounding_error": (marks.to_tape(i["x"], int(i["denominator"])) - i["x"]) * 1e3}
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
        "aov_h": degrees(lens.angle_of_view(i["w"], i["f"], q)), "aov_v": degrees(lens.angle_of_view(i["h"], i["f"])),
        "field_w": wide, "field_h": lens.field(i["h"], i["f"], i["D"]),
    }  # fmt: skip
    return answer | ({"obj_mm_per_px": wide / i["px_wide"] * 1e3} if i.get("px_wide") is not None else {})


def flex_pixels(i: Inputs) -> Outputs:
    focal = lens.focal_pixels(i["f"], i["W"], i["w"])
    sag, corner = screen.shift(focal, i["sag"], i["D"]), [c - s / 2 for c, s in zip(i["corner"], (i["W"], i["H"]), strict=True)]
    moved = np.array(screen.pitched_point(focal, i["pitch"], *corner)) - corner
    return {
        "sag_px": sag, "sag_pct_h": sag / i["H"] * 100, "pitch_px_centre": screen.turn_shift(focal, i["pitch"]),
        "pitch_px_corner": float(np.hypot(*moved)), "roll_px_corner": screen.roll_shift(i["roll"], float(np.hypot(*corner))),
    }  # fmt: skip


def focus(i: Inputs) -> Outputs:
    near, far = lens.sharp_range(i["f"], i["N"], i["coc"], i["D"])
    return {"H": lens.hyperfocal(i["f"], i["N"], i["coc"]), "near": near, "far": far}


def parallax(i: Inputs) -> Outputs:
    ends = [screen.reveal_at((i["x_edge"], i["D_edge"]), (x, i["D_obj"])) for x in i["x_obj"]]
    focal = lens.focal_pixels(i["f"], i["W"], i["w"])
    return {"parallax": screen.parallax(focal, i["D_edge"], i["D_obj"]), "slide": abs(ends[1] - ends[0]), "x_start": ends[0], "x_end": ends[1]}


def orbit_image(i: Inputs) -> Outputs:
    speed = screen.orbit_speed(lens.focal_pixels(i["f"], i["W"], i["w"]), radians(i["arc"]) / i["T"], i["R"], i["D_background"])
    p = screen.pace(speed, i["W"], i["fps"], i["fps"], radians(i["shutter"]))
    return {"px_s": p.speed, "px_frame": p.gap, "blur": p.blur, "T_cross": p.crossing}


def overhead_cover(i: Inputs) -> Outputs:
    wide, tall = (lens.field(i[side], i["f"], i["D"]) for side in ("w", "h"))
    cover = screen.cover(i["bench"], wide, i["overlap"])
    return {"field_w": wide, "field_h": tall, "shots": cover.frames, "travel": cover.travel, "field_w_at_obj": screen.at_height(wide, i["D"], i.get("h_obj", 0.0))}


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
        "screen_duration": i["S"] / i["v"] / slow, "px_frame": p.gap, "gap_pct": p.gap / i["W"] * 100, "blur_px": p.blur,
        "T_cross_screen": p.crossing, "apparent_speed": i["v"] * slow,
    }  # fmt: skip


def _support(held: Any) -> frame.Support:
    fixed, springs = (held, {}) if isinstance(held, list) else (held.get("fixed", []), held.get("springs", {}))
    return frame.Support(tuple(frame.DOFS.index(d) for d in fixed), tuple((frame.DOFS.index(d), k) for d, k in springs.items()))


def frame_(i: Inputs) -> Outputs:
    elements = [
        frame.Element(
            m["name"], m["i"], m["j"], m["E"] * m["A"], m["E"] * m["Iy"], m["E"] * m["Iz"], m["G"] * m["J"],
            roll=m.get("roll", 0.0), released=tuple(m.get("released_local_dofs", ())),
        )
        for m in i["members"]
    ]  # fmt: skip
    made = frame.frame(i["nodes"], elements, {name: _support(held) for name, held in i["supports"].items()})
    none = (0.0, 0.0, 0.0)
    points = [(0, made.element(l["member"]), l["a"], l.get("F", none), l.get("M", none)) for l in i["loads"] if l["type"] == "member_point_global"]
    spread = [(0, made.element(l["member"]), l["q"]) for l in i["loads"] if l["type"] == "udl_global"]
    nodes = [(0, made.node(l["node"]), (*l.get("F", none), *l.get("M", none))) for l in i["loads"] if l["type"] == "node"]
    found = frame.solve(made, frame.loads(1, points, spread, nodes))
    moved, pushed = found.displacements[:, 0].reshape(-1, 6), found.reactions[:, 0].reshape(-1, 6)
    answer: Outputs = {}
    for name in i["nodes"]:
        at = made.node(name)
        answer |= {f"{name}_displacement": moved[at, :3], f"{name}_rotation": moved[at, 3:], f"{name}_reaction": pushed[at, :3], f"{name}_moment": pushed[at, 3:]}
    return answer


def frame_mechanism(i: Inputs) -> Outputs:
    elements = [frame.Element(name, a, b, 1e7, 1e3, 1e3, 1e3, released=tuple(released)) for name, a, b, released in i["members"]]
    made = frame.frame(i["nodes"], elements, {name: _support(held) for name, held in i["supports"].items()})
    try:
        frame.solve(made, frame.loads(1))
    except SingularModelError as error:
        return {"error": "SingularModelError", "named_node": error.node}
    return {"error": "", "named_node": ""}


ADAPTERS: dict[str, Callable[[Inputs], Outputs]] = {
    "payload_cg": payload_cg, "rectangular_tube": lambda i: _section(sections.rectangular_tube(i["b"], i["h"], i["t"], i.get("r_outer", 0.0))),
    "flat_bar": lambda i: _section(sections.flat_bar(i["b"], i["h"])), "angle": lambda i: _section(sections.angle(i["b_horizontal"], i["h_vertical"], i["t"])),
    "channel": lambda i: _section(sections.channel(i["h"], i["b"], i["t_web"], i["t_flange"])),
    "jib_limits": jib_limits, "unequal_bars": unequal_bars, "link_forces": link_forces, "jib_balance": jib_balance, "plates": plates,
    "arm_modes": arm_modes, "footing": footing_, "jib_footing": jib_footing, "ballast": ballast, "cutting": cutting_, "fractions": fractions,
    "frame": frame_, "frame_mechanism": frame_mechanism,
    "pin": pin, "camera_screw": camera_screw, "view": view, "flex_pixels": flex_pixels, "focus": focus, "parallax": parallax,
    "orbit_image": orbit_image, "overhead_cover": overhead_cover, "in_frame": in_frame, "look_at": look_at, "overcrank": overcrank,
}  # fmt: skip
