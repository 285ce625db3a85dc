"""What is told of a driven axis, one subject a module."""
