"""What the builder decided: the project and its shots."""
