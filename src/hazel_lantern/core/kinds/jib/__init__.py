"""Jibs and cranes: an arm that swings a camera up and down on a post."""
