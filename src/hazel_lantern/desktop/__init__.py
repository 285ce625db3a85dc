"""The window. Nothing here computes physics."""
