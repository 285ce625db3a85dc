"""Colours, fonts and icons."""
