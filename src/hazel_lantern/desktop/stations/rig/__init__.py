"""The Rig station."""
