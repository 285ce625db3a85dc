"""What a shot's fields mean: declared as quantities beside those of the rigs."""

from __future__ import annotations

from hazel_lantern.core.quantity import Quantity

QUANTITIES = (
    Quantity("shot.start", "Lens starts at", "m", 0.0, 8.0, 0.6, "The move", "height of the lens above the ground", "shot"),
    Quantity("shot.end", "and ends at", "m", 0.0, 8.0, 2.4, "The move", "height of the lens above the ground", "shot"),
    Quantity("shot.time", "In", "s", 0.2, 36000.0, 8.0, "The move", "duration of the move", "shot"),
    Quantity("shot.ramp", "Ease at each end", "1", 0.05, 0.5, 0.35, "The move", "share of the time taken to speed up", "shot"),
    Quantity("shot.capture", "Shot at", "1/s", 1.0, 1000.0, 25.0, "Picture", "frames a second in the camera", "shot"),
    Quantity("shot.shown", "Shown at", "1/s", 1.0, 240.0, 25.0, "Picture", "frames a second on the screen", "shot"),
    Quantity("shot.focal", "Lens", "m:lens", 0.001, 1.0, 0.024, "Picture", "focal length", "shot"),
    Quantity("shot.sensor_width", "Picture area, wide", "m:lens", 0.002, 0.1, 0.0235, "Picture", "width of the recorded area", "shot"),
    Quantity("shot.sensor_height", "Picture area, high", "m:lens", 0.002, 0.1, 0.0132, "Picture", "height of the recorded area", "shot"),
)
FIELDS = {
    "shot.start": "start_height_m", "shot.end": "end_height_m", "shot.time": "duration_s", "shot.ramp": "ramp",
    "shot.capture": "capture_fps", "shot.shown": "shown_fps", "shot.focal": "focal_m",
    "shot.sensor_width": "sensor_width_m", "shot.sensor_height": "sensor_height_m",
}  # fmt: skip
