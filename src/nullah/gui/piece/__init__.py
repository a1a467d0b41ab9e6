"""The piece station's view."""
