"""What a gantry bears: its frame bent, its boom, its posts against sway, what runs on what."""
