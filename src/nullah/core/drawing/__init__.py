"""A display list in mm, the inks it names, and where words and figures go on it."""
