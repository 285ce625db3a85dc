"""On the day: cautions accepted, a hand's pace scored, takes and what they say about the rig."""
