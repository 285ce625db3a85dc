"""What several kinds of rig share."""
