"""The timber station's view."""
