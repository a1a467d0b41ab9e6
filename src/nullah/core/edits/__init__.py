"""Project to project: a file each of what is edited, and gestures."""
