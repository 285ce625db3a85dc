"""Dollies: a deck on wheel pairs that run along laid pipe."""
