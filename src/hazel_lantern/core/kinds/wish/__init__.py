"""No rig yet: the camera in the air, exactly where the shot wants it,
so that a shot can be seen before it has a rig."""
