"""Shared painting: a display list of the core on the screen."""
