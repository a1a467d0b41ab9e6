"""Nullah: the hand-tool woodworker's plan that stays true to the wood."""

__version__ = "0.3.1"
