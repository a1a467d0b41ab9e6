"""The together station's view."""
