"""The Shot station."""
