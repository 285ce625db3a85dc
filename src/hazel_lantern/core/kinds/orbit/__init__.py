"""Orbit rigs: a camera on a beam that turns about what it looks at."""
