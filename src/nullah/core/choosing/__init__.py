"""What is offered: kinds of piece, joints between two parts, places between marks."""
