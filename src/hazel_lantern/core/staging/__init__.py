"""The set: what stands on it, where the rig stands and the camera goes, and what the lens then sees."""
