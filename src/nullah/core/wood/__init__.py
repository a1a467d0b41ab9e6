"""What wood does: species, moisture, movement. Knowledge only: it knows no station, no part, no project."""
