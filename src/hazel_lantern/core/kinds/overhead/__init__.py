"""Overhead sliders: a rail hung from beams, a grid or wall brackets, the camera below it."""
