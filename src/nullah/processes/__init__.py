"""What runs beside the window, each in a process of its own, and what goes between."""
