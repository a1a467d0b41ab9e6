"""The bench station's view."""
