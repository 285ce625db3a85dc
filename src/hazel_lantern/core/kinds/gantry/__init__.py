"""Gantries: a bridge across two runways, a trolley on it, and a boom that swings the camera out."""
