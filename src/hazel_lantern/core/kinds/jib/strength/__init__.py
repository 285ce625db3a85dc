"""Bending, joints and level-keeping of a jib."""
