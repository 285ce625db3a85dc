"""The drawing to scale and what can be dragged on it."""
