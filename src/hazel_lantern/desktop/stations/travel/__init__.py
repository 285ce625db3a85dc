"""The Travel station."""
