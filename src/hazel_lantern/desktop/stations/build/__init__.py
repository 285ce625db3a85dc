"""The Build station."""
