"""``python -m nullah``: the program as the command ``nullah`` starts it."""

from nullah.cli import start

start()
