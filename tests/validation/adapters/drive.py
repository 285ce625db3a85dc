"""Driving: gears, screws, cords, belts and motors; the move and its picture; cutting, buying and building."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from math import degrees, inf, pi, radians

import numpy as np

from hazel_lantern.core.mechanics import pins
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
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.optics import lens, pose, screen
from hazel_lantern.core.workshop import cutting, marks, money, schedule
from hazel_lantern.core.workshop import tiling as tiles
from tests.validation.adapters.given import Inputs, Outputs


def profile(i: Inputs) -> Outputs:
    most = shapes.peaks(i["kind"], i.get("beta", 0.35), i["S"], i["T"])
    return {"v": most.speed, "a": most.acceleration, "j": most.jerk}


def jerk_limited(i: Inputs) -> Outputs:
    found = shapes.jerk_limited(i["S"], i["V"], i["A"], i["J"])
    return {"T": found.time, "v_peak": found.speed, "a_peak": found.acceleration}


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
    found, sweep = (sectors.sector(i["z_eq"], i["z_pinion"], radians(i["sweep"]), i["m"]), radians(i["sweep"]))
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
    "ratio_window": ratio_window,
    "train_search": train_search,
    "change_gears": change_gears,
    "spur_pair": spur_pair,
    "gear_outline_area": gear_outline_area,
    "gear_limits": gear_limits,
    "tooth_strength": tooth_strength,
    "time_lapse": time_lapse,
    "pace_strip": pace_strip,
    "tiling": tiling,
    "buy_list": buy_list,
    "build_plan": build_plan,
    "cutting": cutting_,
    "fractions": fractions,
    "pin": pin,
    "camera_screw": camera_screw,
    "view": view,
    "flex_pixels": flex_pixels,
    "focus": focus,
    "parallax": parallax,
    "profile": profile,
    "jerk_limited": jerk_limited,
    "keyframes": keyframes,
    "orbit_image": orbit_image,
    "overhead_cover": overhead_cover,
    "in_frame": in_frame,
    "look_at": look_at,
    "overcrank": overcrank,
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
}
