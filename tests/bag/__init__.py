"""A station that only tests know: what goes into which bag. One row in the core's list, and this folder."""
