"""The trueup station's view."""
