"""Boards whose true surfaces are known, and readings taken of them with errors; written apart from the code that reads them."""

import numpy as np

KINDS_OF_ERROR = {"thickness": 0.05}  # caliper; sticks and straightedge 0.1


class ReadBoard:
    """What is asked of a board with a ``length``, ``width`` and ``thickness``, heights ``face`` and ``back`` over places in mm, and a
    ``chance``."""

    misread = 0.0  # how often a reading is off by a whole millimetre

    def typed(self):
        return round(2 * self.thickness) / 2

    def on(self, rows, columns):
        """Face and back on a grid from end to end and edge to edge."""
        x, y = np.meshgrid(np.linspace(0, self.length, rows), np.linspace(0, self.width, columns), indexing="ij")
        return self.face(x, y), self.back(x, y)

    def said(self, kind, at=0.0, across=0.0, stick=0.0, to=0.0):
        """What a reading would say without error."""
        length, width = self.length, self.width

        def z(x, y):
            return float(self.face(x, y))

        def fall(x):
            return z(x, width) - z(x, 0)

        if kind == "winding sticks":
            return (fall(at) - fall(to)) * (stick or width) / width
        if kind == "cup":
            return (z(at, 0) + z(at, width)) / 2 - z(at, width / 2)
        if kind == "bow":
            end = to or length
            return (z(at, across) + z(end, across)) / 2 - z((at + end) / 2, across)
        if kind == "corner":
            ends = (z(0, 0), z(length, width)) if to == 1 else (z(0, width), z(length, 0))
            return sum(ends) / 2 - z(length / 2, width / 2)
        return z(at, across) - float(self.back(at, across))

    def read(self, kind, at=0.0, across=0.0, stick=0.0, to=0.0):
        """What a reading says, with its error."""
        told = self.said(kind, at, across, stick, to) + self.chance.normal(0, KINDS_OF_ERROR.get(kind, 0.1))
        if self.misread and self.chance.random() < self.misread:
            told += self.chance.choice([-1.0, 1.0])
        return told


class HiddenBoard(ReadBoard):
    """Warped as a whole, bumps and hollows on the face alone; u and v from -1 to 1 along and across, mm."""

    def __init__(self, seed):
        chance = np.random.default_rng(seed)

        def either(low, high):
            return chance.uniform(low, high) * chance.choice([-1, 1])

        self.length, self.width = chance.uniform(500, 2200), chance.uniform(120, 300)
        self.thickness = chance.uniform(19, 52)
        self.shape = (either(0.2, 2), chance.uniform(0.4, 1.5), either(0.2, 1.4), *chance.uniform(-0.4, 0.4, 3))
        self.bumps = [
            (either(0.1, 0.3), *chance.uniform(-1, 1, 2), 2 * chance.uniform(0.1, 0.25), 2 * chance.uniform(0.18, 0.4))
            for _ in range(chance.integers(2, 6))
        ]
        self.slopes = chance.uniform(-0.2, 0.2), chance.uniform(-0.125, 0.125)
        self.hollow = chance.uniform(-0.2, 0.2)
        self.chance = np.random.default_rng(seed + 10_000)

    def smooth(self, u, v):
        bow, cup, twist, *leaning = self.shape
        plain = bow * u * u + cup * v * v + twist * u * v
        return plain + leaning[0] * (u**3 - u) + leaning[1] * u * v * v + leaning[2] * (u * u - 1) * v

    def face(self, x, y):
        u, v = 2 * x / self.length - 1, 2 * y / self.width - 1
        local = (h * np.exp(-(((u - p) / s) ** 2 + ((v - q) / r) ** 2) / 2) for h, p, q, s, r in self.bumps)
        return self.smooth(u, v) + sum(local)

    def back(self, x, y):
        u, v = 2 * x / self.length - 1, 2 * y / self.width - 1
        return self.smooth(u, v) - self.thickness + self.slopes[0] * u + self.slopes[1] * v + self.hollow * v * v


def off_plane(difference):
    """A difference of heights less its least-squares plane."""
    u, v = np.meshgrid(*(np.linspace(-1, 1, n) for n in difference.shape), indexing="ij")
    basis = np.stack([np.ones(u.size), u.ravel(), v.ravel()], 1)
    plane = basis @ np.linalg.lstsq(basis, difference.ravel(), rcond=None)[0]
    return difference - plane.reshape(difference.shape)
