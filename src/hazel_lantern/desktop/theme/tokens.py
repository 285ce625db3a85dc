"""Every colour of both themes; no colour literal stands anywhere else."""

from __future__ import annotations

from msgspec import Struct


class Tokens(Struct, frozen=True):
    """Colours by role."""

    name: str
    ground: str
    panel: str
    raised: str
    line: str
    ink: str
    muted: str
    lantern: str
    on_lantern: str
    clear: str
    watch: str
    stop: str
    water: str
    wood: str
    aluminium: str
    steel: str
    plastic: str
    rope: str
    camera: str
    lens: str
    weight: str
    person: str
    view: str
    grid: str
    soil: str
    glow: str
    foliage: str
    pond: str
    masonry: str
    figure: str
    sky: str
    floor: str

    def of(self, role: str) -> str:
        """The colour of a role; unknown roles are ink."""
        return str(getattr(self, role.replace("-", "_"), self.ink))


DUSK = Tokens(
    "dusk", ground="#161a16", panel="#1e241e", raised="#283028", line="#3a443a", ink="#f2f3e8", muted="#b3bba8",
    lantern="#ffae4d", on_lantern="#20180c",
    clear="#8ad0a0", watch="#ece06a", stop="#ff8a70", water="#86c5e8", wood="#b98450", aluminium="#c9d0cf",
    steel="#8c9699", plastic="#d8d0b4", rope="#c2a86a",
    camera="#8f9a9c", lens="#5d686c", weight="#6b757a", person="#323a32", view="#3a2f1c", grid="#20261f",
    soil="#20221a", glow="#33291a",
    foliage="#33452f", pond="#22343d", masonry="#5a5850", figure="#8d7c68", sky="#262d38", floor="#24261d",
)  # fmt: skip
DAYLIGHT = Tokens(
    "daylight", ground="#f6f4ec", panel="#ebe9dc", raised="#fffef8", line="#d3d3c1", ink="#20251d", muted="#545c4c",
    lantern="#96500a", on_lantern="#fffef8",
    clear="#2c6a3f", watch="#6f5a00", stop="#a8301a", water="#205f80", wood="#b07a45", aluminium="#9aa5a6",
    steel="#6d777b", plastic="#cfc6a4", rope="#927433",
    camera="#626c70", lens="#434c50", weight="#555f64", person="#d3d5c4", view="#f0dfc0", grid="#e7e5d8",
    soil="#e2dfcb", glow="#f3dfbd",
    foliage="#a9bd93", pond="#b5cfdc", masonry="#c9c2b2", figure="#a08a70", sky="#d5dee6", floor="#dcd8c2",
)  # fmt: skip
THEMES = {"dusk": DUSK, "daylight": DAYLIGHT}
