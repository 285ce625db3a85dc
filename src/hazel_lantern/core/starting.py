"""What a new project holds."""

from __future__ import annotations

from hazel_lantern.core.project import FORMAT, Kit, KitItem, Owned, Project, Shot


def blank(name: str = "Untitled") -> Project:
    """A project with one plain kit, one shot and a few plates."""
    kit = Kit(id="kit", name="Camera with a small lens", items=(
        KitItem(name="Camera body", mass_kg=0.75, at_m=(0.0, 0.0, 0.045)), KitItem(name="Lens", mass_kg=0.4, at_m=(0.075, 0.0, 0.045)),
        KitItem(name="Battery and monitor", mass_kg=0.45, at_m=(-0.04, 0.0, 0.12))))  # fmt: skip
    owned = ("plate-5", "plate-2.5", "plate-2.5", "plate-1.25", "plate-1.25", "plate-0.5", "plate-0.5", "plate-0.25")
    plates = tuple(Owned(id=f"w{i + 1}", plate=plate) for i, plate in enumerate(owned))
    return Project(format=FORMAT, name=name, kits=(kit,), shots=(Shot(id="shot", name="First shot"),), plates=plates)
