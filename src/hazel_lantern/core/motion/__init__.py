"""Motion along a path in time."""
