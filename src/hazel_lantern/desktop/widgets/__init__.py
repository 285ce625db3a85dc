"""Small widgets that edit or show one thing."""
