"""Frame of the window."""
