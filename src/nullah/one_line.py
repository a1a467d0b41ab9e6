"""A parser of arguments that says what is wrong in one sentence."""

from __future__ import annotations

import argparse
from typing import NoReturn


class OneLineParser(argparse.ArgumentParser):
    """As the standard one, but that what does not serve is one line, without the usage before it."""

    def error(self, message: str) -> NoReturn:
        """Say what does not serve, and end with 2."""
        self.exit(2, f"{self.prog}: {' '.join(message.split())}. {self.prog} --help tells how it is written.\n")
