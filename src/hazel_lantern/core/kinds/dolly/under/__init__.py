"""What a dolly runs on: pipe track, the ground under it, or a floor."""
