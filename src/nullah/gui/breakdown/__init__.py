"""The breakdown station's view."""
