# SPDX-License-Identifier: GPL-3.0-or-later
"""Hazel Lantern: design, build, prove and operate moving camera rigs."""

__version__ = "1.0.0"
