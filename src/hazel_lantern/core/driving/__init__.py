"""What drives the axes of a rig: sources and elements, what they ask for and give."""
