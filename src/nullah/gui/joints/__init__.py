"""The joints station's view."""
