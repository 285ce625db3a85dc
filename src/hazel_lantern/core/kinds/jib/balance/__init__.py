"""Weights, other camera kits and footing of a jib."""
