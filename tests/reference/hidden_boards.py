"""Boards whose true surfaces are known, and readings taken of them with errors; written apart from the code that reads them."""

import numpy as np

KINDS_OF_ERROR = {"thickness": 0.05}  # caliper; sticks and straightedge 0.1


class HiddenBoard:
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

    def face(self, u, v):
        local = (h * np.exp(-(((u - p) / s) ** 2 + ((v - q) / r) ** 2) / 2) for h, p, q, s, r in self.bumps)
        return self.smooth(u, v) + sum(local)

    def back(self, u, v):
        return self.smooth(u, v) - self.thickness + self.slopes[0] * u + self.slopes[1] * v + self.hollow * v * v

    def typed(self):
        return round(2 * self.thickness) / 2

    def on(self, rows, columns):
        """Face and back on a grid from end to end and edge to edge."""
        u, v = np.meshgrid(np.linspace(-1, 1, rows), np.linspace(-1, 1, columns), indexing="ij")
        return self.face(u, v), self.back(u, v)

    def read(self, kind, at=0.0, across=0.0, stick=0.0, to=0.0):
        """What a reading says, with its error."""
        length, width = self.length, self.width

        def z(x, y):
            return float(self.face(2 * x / length - 1, 2 * y / width - 1))

        def fall(x):
            return z(x, width) - z(x, 0)

        if kind == "winding sticks":
            told = (fall(at) - fall(to)) * (stick or width) / width
        elif kind == "cup":
            told = (z(at, 0) + z(at, width)) / 2 - z(at, width / 2)
        elif kind == "bow":
            end = to or length
            told = (z(at, across) + z(end, across)) / 2 - z((at + end) / 2, across)
        elif kind == "corner":
            ends = (z(0, 0), z(length, width)) if to == 1 else (z(0, width), z(length, 0))
            told = sum(ends) / 2 - z(length / 2, width / 2)
        else:
            told = z(at, across) - float(self.back(2 * at / length - 1, 2 * across / width - 1))
        return told + self.chance.normal(0, KINDS_OF_ERROR.get(kind, 0.1))


def off_plane(difference):
    """A difference of heights less its least-squares plane."""
    u, v = np.meshgrid(*(np.linspace(-1, 1, n) for n in difference.shape), indexing="ij")
    basis = np.stack([np.ones(u.size), u.ravel(), v.ravel()], 1)
    plane = basis @ np.linalg.lstsq(basis, difference.ravel(), rcond=None)[0]
    return difference - plane.reshape(difference.shape)
