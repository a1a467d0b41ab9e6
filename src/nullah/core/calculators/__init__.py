"""Sums of the trade, each one thing that is asked and answered."""
