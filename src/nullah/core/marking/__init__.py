"""What joints and shaping share: what every family is and sees, cuts as marked sides, checks and settings, and the work they are."""
