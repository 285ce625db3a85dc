"""Moving: wheels, tracks, turning beams, what shakes them, and tests read backwards."""

from __future__ import annotations

from collections.abc import Callable
from math import degrees, inf, nan, pi, radians

import numpy as np

from hazel_lantern.core.mechanics import arcs, platform, rolling, rotor, ties, vibration, wheel_pairs
from hazel_lantern.core.motion import by_hand
from hazel_lantern.core.optics import flicker
from hazel_lantern.core.proving import along, bending, drift, repeats, shaken, spin, swings
from tests.validation.adapters.given import Inputs, Outputs


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


def stopwatch(i: Inputs) -> Outputs:
    found = by_hand.timed(i["commanded_speed"], i["distance"], i["times"], i["steps_per_metre"])
    return {
        "actual_speed": found.speed,
        "drive_ratio_error": found.off,
        "corrected_steps_per_metre": found.steps,
        "relative_uncertainty_95": found.uncertainty,
    }


ADAPTERS: dict[str, Callable[[Inputs], Outputs]] = {
    "accelerometer_log": accelerometer_log,
    "reversed_level": reversed_level,
    "roll_tests": roll_tests,
    "drift_test": drift_test,
    "repeatability": repeatability,
    "bounce_test": bounce_test,
    "sag_test": sag_test,
    "pull_test": pull_test,
    "coast_down_fit": coast_down_fit,
    "combine_measurements": combine_measurements,
    "stopwatch": stopwatch,
    "wheel_step_gap": wheel_step_gap,
    "stick_slip": lambda i: {
        "critical_speed": rolling.stick_slip(
            i["static_minus_kinetic_friction"], i["drive_stiffness"], i["mass"], i["damping_ratio"]
        )
    },
    "transmissibility": transmissibility,
    "joint_kick": joint_kick,
    "resonance_table": resonance_table,
    "pipe_on_ties": pipe_on_ties,
    "ties_lift_off": ties_lift_off,
    "wheel_pair_on_pipe": wheel_pair_on_pipe,
    "packing": packing,
    "dolly_tip": dolly_tip,
    "four_wheel_rocking": four_wheel_rocking,
    "plate_deck": plate_deck,
    "orbit_forces": orbit_forces,
    "orbit_verdict": orbit_verdict,
    "orbit_base_tipping": orbit_base_tipping,
    "coast_down": coast_down,
    "flight_screen": flight_screen,
    "flicker": lamp_flicker,
    "three_run_balance": three_run_balance,
    "curved_track": curved_track,
    "bogies": bogies,
}
