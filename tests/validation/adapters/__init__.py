"""One adapter a topic: unpack inputs, call the core, name the outputs. No physics here."""

from collections.abc import Callable

from tests.validation.adapters import drive, dynamics, ropes, statics
from tests.validation.adapters.given import Inputs, Outputs

ADAPTERS: dict[str, Callable[[Inputs], Outputs]] = {
    **statics.ADAPTERS,
    **dynamics.ADAPTERS,
    **ropes.ADAPTERS,
    **drive.ADAPTERS,
}
