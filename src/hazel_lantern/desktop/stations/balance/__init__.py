"""The Balance station."""
