"""The outside world: project file, CSV, PDF, the plan as JSON. May import the core, never the window."""
