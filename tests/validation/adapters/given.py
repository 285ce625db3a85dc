"""What an adapter is given and what it gives back."""

from typing import Any

Inputs = dict[str, Any]
Outputs = dict[str, Any]
