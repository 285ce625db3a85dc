"""Whole designs reckoned again by hand, by another route."""
