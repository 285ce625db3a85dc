"""What the lens sees."""
