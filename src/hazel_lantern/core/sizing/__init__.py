"""Sizes searched over the whole catalogue: screened all at once, the best worked out exactly."""
