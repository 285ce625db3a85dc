"""Dollies: a camera on a deck or a frame that rolls along laid pipe or over a floor."""
