"""Sliders: a carriage on one or two rails that stand on a tripod, two stands or a table."""
