"""Layouts on boards: blanks in, trees of full saw cuts out. ``search`` finds, ``check`` holds any layout to account.

The interface is ``search(stock, blanks, options) -> layouts``, self-contained values both ways, so that a stronger search
can take its place. Nothing here knows a station.
"""
