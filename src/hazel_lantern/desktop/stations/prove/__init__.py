"""Prove: the built rig tested against what was predicted."""
