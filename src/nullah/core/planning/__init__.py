"""The stations in order, what an edit changed, and what is read off the whole plan."""
