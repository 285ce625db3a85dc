"""The Drive station in the window."""
