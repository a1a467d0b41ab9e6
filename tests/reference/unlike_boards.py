"""Boards of physics that the program's model is not made from, each kind written by itself, and readings taken of them: heights in mm
over places in mm, sticks and straightedge off by 0.1 and calipers by 0.05 (one standard deviation), three readings of a hundred misread
by a whole millimetre."""

import numpy as np
from hidden_boards import ReadBoard

MISREAD = 0.03


def hump(x, y, at, across, long, wide):
    """1 in its middle, gone where it ends."""
    r = ((x - at) / long) ** 2 + ((y - across) / wide) ** 2
    return np.exp(-r / 2)


class Sawn(ReadBoard):
    """As a saw and a kiln leave boards: the bend along is uneven from stretch to stretch, twist starts somewhere, ends are sprung, wood
    stands up at knots, and the blade wandered through each face by itself. Every fourth is a hard one."""

    hard = (
        {"bow": 8.0},
        {"wind": 12.0, "length": 300.0, "width": 140.0},
        {"length": 2400.0},
        {"width": 900.0, "length": 1500.0, "wind": 5.0},
        {"width": 60.0},
    )

    def __init__(self, seed):
        c = np.random.default_rng([1, seed])
        told = self.hard[seed // 4 % len(self.hard)] if seed % 4 == 3 else {}
        self.length = told.get("length", c.uniform(350, 1900))
        self.width = told.get("width", c.uniform(70, 320))
        self.thickness = c.uniform(20, 50)
        metres = self.length / 1000
        stretches = np.linspace(0, self.length, 6)
        bend = c.normal(1.0, 0.7, 6)
        slope = np.concatenate([[0], np.cumsum((bend[1:] + bend[:-1]) / 2)])
        height = np.concatenate([[0], np.cumsum((slope[1:] + slope[:-1]) / 2)])
        height = np.interp(np.linspace(0, 1, 81), np.linspace(0, 1, 6), height[:6])
        height = np.convolve(np.pad(height, 8, mode="reflect", reflect_type="odd"), np.ones(17) / 17, "valid")
        line = np.linspace(height[0], height[-1], 81)
        reach = max(abs(height - line).max(), 1e-9)
        bow = told.get("bow", c.uniform(0.1, 1.6) * metres**1.3)
        self.bow = (np.linspace(0, self.length, 81), c.choice([-1, 1]) * bow * (height - line) / reach)
        wind = told.get("wind", c.uniform(0, 2.0) * metres**0.5) * c.choice([-1, 1])
        starts = c.uniform(0, 0.5)
        turn = np.clip((stretches / self.length - starts) / (1 - starts), 0, 1) ** c.uniform(0.8, 2)
        self.turn = (stretches, wind * turn)
        self.cups = (stretches, c.uniform(0.1, 1.0) * (self.width / 200) ** 1.3 * c.uniform(0.4, 1.3, 6))
        self.way = c.choice([-1, 1])
        self.sprung = [(end, c.uniform(-0.6, 1.0), c.uniform(40, 160)) for end in (0.0, self.length)]
        count = c.poisson(1.2)
        self.knots = [
            (c.uniform(0.1, 1.0), *c.uniform(0, 1, 2), c.uniform(25, 70), c.uniform(20, 50)) for _ in range(count)
        ]
        self.wander = [
            [(c.uniform(0.02, 0.22), c.uniform(150, 700), c.uniform(0, 7), c.uniform(-0.5, 0.5)) for _ in range(3)]
            for _ in range(2)
        ]
        self.chance = np.random.default_rng([11, seed])
        self.misread = MISREAD

    def warped(self, x, y):
        v = 2 * y / self.width - 1
        out = np.interp(x, *self.bow) + np.interp(x, *self.turn) * v / 2 + self.way * np.interp(x, *self.cups) * v * v
        for end, rise, reach in self.sprung:
            out = out + rise * np.clip(1 - abs(x - end) / reach, 0, 1) ** 2
        return out

    def sawn(self, x, y, which):
        waves = self.wander[which]
        return sum(h * np.sin(2 * np.pi * x / long + start + lean * y / self.width) for h, long, start, lean in waves)

    def face(self, x, y):
        knots = sum(
            h * hump(x, y, p * self.length, q * self.width, long, min(wide, self.width / 3))
            for h, p, q, long, wide in self.knots
        )
        return self.warped(x, y) + self.sawn(x, y, 0) + knots

    def back(self, x, y):
        return self.warped(x, y) - self.thickness + self.sawn(x, y, 1)


class Dried(ReadBoard):
    """As wood moves: each slice across curls by how flat its rings lie, which the wandering pith changes along the board; twist is the
    sum of a spiral that grows and reverses; the bend comes of a streak of stressed wood that begins and ends; parts of it were planed
    flat at the mill before it moved."""

    def __init__(self, seed):
        c = np.random.default_rng([2, seed])
        self.length, self.width = c.uniform(300, 2400), c.uniform(60, 400)
        self.thickness = c.uniform(18, 55)
        if seed % 10 == 7:
            self.width = c.uniform(500, 900)
        x = np.linspace(0, self.length, 241)
        dx = x[1]

        def smooth(reach):  # of unit size, wandering over about so many mm
            waves = c.normal(0, 1 / reach, 24), c.uniform(0, 2 * np.pi, 24)
            return np.sqrt(2 / 24) * np.cos(np.outer(x, waves[0]) + waves[1]).sum(1)

        radius = self.width / 2
        curl = 0.9 * radius**2 / 1e4 * (0.35 + 0.25 * smooth(500)) * c.choice([-1, 1])
        self.curl = (x, curl)
        spiral = np.cumsum(c.uniform(0, 1.8) / 1000 * (smooth(700) + c.normal(0, 0.7))) * dx * self.width / 300
        self.spiral = (x, spiral - spiral[0])
        stress = (
            c.uniform(0.2, 2.2)
            * 1e-6
            * (smooth(350) + c.normal(0, 0.8))
            * hump(x, 0, c.uniform(0, self.length), 0, c.uniform(0.2, 0.8) * self.length, 1)
        )
        bend = np.cumsum(np.cumsum(stress)) * dx * dx * 2.5
        self.bend = (x, bend - np.linspace(bend[0], bend[-1], bend.size))
        self.taper = c.uniform(-0.6, 0.6), c.uniform(-0.3, 0.3)
        self.snake = (x, c.uniform(0.0, 0.2) * smooth(180))
        self.ridges = c.uniform(0, 0.12), c.uniform(120, 260), c.uniform(0, 7)
        self.chance = np.random.default_rng([12, seed])
        self.misread = MISREAD

    def moved(self, x, y):
        v = 2 * y / self.width - 1
        return np.interp(x, *self.bend) + np.interp(x, *self.curl) * v * v + np.interp(x, *self.spiral) * v

    def face(self, x, y):
        return self.moved(x, y) + np.interp(x, *self.snake)

    def back(self, x, y):
        size, long, start = self.ridges
        leaning = self.taper[0] * (x / self.length - 0.5) + self.taper[1] * (y / self.width - 0.5)
        return self.moved(x, y) - self.thickness + leaning + size * np.sin(2 * np.pi * x / long + start)


class MadeByHand(ReadBoard):
    """As hands make boards: riven ones follow the grain in a steady turn and are hewn in long flats with the scallops of the tool; wide
    ones are glued up of staves, each with a bend and a lean of its own and a step beside its neighbour."""

    def __init__(self, seed):
        c = np.random.default_rng([3, seed])
        self.glued = bool(seed % 2)
        self.length = c.uniform(300, 1800)
        self.width = c.uniform(200, 800) if self.glued else c.uniform(70, 260)
        self.thickness = c.uniform(20, 50)
        metres = self.length / 1000
        self.turning = c.uniform(-1.5, 1.5) * metres
        self.hollow = c.uniform(-1, 1) * (self.width / 300) ** 1.2
        count = max(int(self.width / c.uniform(60, 120)), 1) if self.glued else 1
        self.seams = np.linspace(0, self.width, count + 1)[1:-1]
        self.staves = [(c.normal(0, 0.15), c.normal(0, 0.25), c.normal(0, 0.7) * metres**1.5) for _ in range(count)]
        flats = c.integers(2, 6)
        self.flats = (
            [] if self.glued else [(c.normal(0, 0.8), c.normal(0, 0.5), c.uniform(0, 0.6)) for _ in range(flats)]
        )
        self.scallops = (0.0 if self.glued else c.uniform(0.03, 0.15)), c.uniform(70, 160), c.uniform(-0.8, 0.8)
        self.behind = c.uniform(-0.4, 0.4), c.uniform(-0.3, 0.3), c.uniform(0.0, 0.2), c.uniform(200, 500)
        self.chance = np.random.default_rng([13, seed])
        self.misread = MISREAD

    def bent(self, x, y):
        u, v = 2 * x / self.length - 1, 2 * y / self.width - 1
        which = np.searchsorted(self.seams, y)
        step, lean, bow = (np.array(column)[which] for column in zip(*self.staves, strict=True))
        middle = (which + 0.5) / len(self.staves) * 2 - 1
        return self.turning * u * v / 2 + self.hollow * v * v / 2 + step + lean * (v - middle) + bow * u * u

    def face(self, x, y):
        u, v = 2 * x / self.length - 1, 2 * y / self.width - 1
        out = self.bent(x, y)
        if self.flats:
            out = out + np.min([a * u + b * v + level for a, b, level in self.flats], axis=0)
        size, long, lean = self.scallops
        return out + size * abs(np.sin(np.pi * (x + lean * y) / long))

    def back(self, x, y):
        u, v = 2 * x / self.length - 1, 2 * y / self.width - 1
        along, across, size, long = self.behind
        flat = np.min([a * u + b * v + level for a, b, level in self.flats], axis=0) if self.flats else 0.0
        return (
            self.bent(x, y) + flat - self.thickness + along * u + across * v + size * np.sin(2 * np.pi * x / long + 1)
        )


class Stacked(ReadBoard):
    """As a pile leaves boards: they set as they sagged between stickers of which some lay high, droop beyond the last ones, twist by
    steps as wood above them shifted, fall off at an edge of sapwood; stickers dented them and a band saw left its washboard."""

    def __init__(self, seed):
        c = np.random.default_rng([4, seed])
        self.length, self.width = c.uniform(300, 2200), c.uniform(60, 450)
        self.thickness = c.uniform(18, 50)
        self.apart = c.uniform(250, 600)
        first = c.uniform(20, 200)
        count = max(int((self.length - first) / self.apart) + 1, 1)
        self.stickers = first + self.apart * np.arange(count)
        self.levels = c.normal(0, 0.5, count)
        self.sag = c.uniform(0.1, 1.0) * (self.apart / 600) ** 2
        self.droop = c.uniform(0, 1.2) / 300**2
        steps = c.normal(0, 0.9, 12) * (self.length / 1000 / 12) ** 0.5 * 12**0.5 / 3.5
        self.turn = (np.linspace(0, self.length, 12), np.cumsum(steps) * self.width / 300)
        self.sapwood = c.choice([-1, 1]), c.uniform(0, 0.9), self.width * c.uniform(0.08, 0.25)
        self.cup = c.normal(0, 0.5) * (self.width / 250) ** 1.3
        self.dents = c.uniform(0, 0.25, count)
        self.washboard = [(c.uniform(0, 0.08), c.uniform(30, 60), c.uniform(0, 7)) for _ in range(2)]
        self.taper = c.normal(0, 0.25, 2)
        self.chance = np.random.default_rng([14, seed])
        self.misread = MISREAD

    def lay(self, x, y):
        v = 2 * y / self.width - 1
        at = self.stickers
        out = np.interp(x, at, self.levels) if len(at) > 1 else np.zeros_like(np.asarray(x, float) + 0.0 * y)
        between = (x > at[0]) & (x < at[-1])
        out = out - np.where(between, self.sag * np.sin(np.pi * (x - at[0]) / self.apart) ** 2, 0.0)
        beyond = np.maximum(at[0] - x, 0) + np.maximum(x - at[-1], 0)
        out = out - self.droop * beyond**2 + np.interp(x, *self.turn) * v / 2 + self.cup * v * v
        edge, fall, reach = self.sapwood
        return out - fall * np.exp(-(self.width / 2) * (1 - edge * v) / reach)

    def marks(self, x, which):
        size, long, start = self.washboard[which]
        return size * np.sin(2 * np.pi * x / long + start)

    def face(self, x, y):
        dents = sum(d * np.exp(-(((x - at) / 12) ** 2)) for d, at in zip(self.dents, self.stickers, strict=True))
        return self.lay(x, y) + self.marks(x, 0) - dents

    def back(self, x, y):
        along, across = self.taper
        leaning = along * (2 * x / self.length - 1) + across * (2 * y / self.width - 1)
        return self.lay(x, y) - self.thickness + leaning + self.marks(x, 1)
