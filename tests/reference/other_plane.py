"""A plane on wood, written apart from the program's: the sole lies on the highest points under it where the hands press, lane by lane,
the iron hangs under it by its set and leaves no wood above its edge. It planes the zones it is told, literally: inside the outline,
stroke beside stroke in the direction given, over and over."""

import numpy as np

STATION = 12.0  # mm along a stroke
LANES = (-1.0, 0.0, 1.0)  # across the sole, of half its width


class Wood:
    """Two faces of a board as heights over a grid, each as it lies upward."""

    def __init__(self, board, step=8.0):
        self.board = board
        self.length, self.width = board.length, board.width
        self.rows, self.columns = (max(int(n / step) + 1, 12) for n in (board.length, board.width))
        self.x, self.y = np.linspace(0, self.length, self.rows), np.linspace(0, self.width, self.columns)
        face, back = board.on(self.rows, self.columns)
        self.up = {"face": face, "back": -back}
        self.strokes = 0

    def height(self, side, x, y):
        """Between the points of the grid; off the board none."""
        i, j = x / self.x[1], y / self.y[1]
        off = (i < -1e-6) | (j < -1e-6) | (i > self.rows - 1 + 1e-6) | (j > self.columns - 1 + 1e-6)
        i, j = np.clip(i, 0, self.rows - 1.001), np.clip(j, 0, self.columns - 1.001)
        a, b = i.astype(int), j.astype(int)
        p, q, z = i - a, j - b, self.up[side]
        here = (z[a, b] * (1 - q) + z[a, b + 1] * q) * (1 - p) + (z[a + 1, b] * (1 - q) + z[a + 1, b + 1] * q) * p
        return np.where(off, -np.inf, here)

    def plane(self, side, sole, iron, width, set_, camber, zones):
        """Zones as they are told: outline, times and direction."""
        for zone in zones:
            for _ in range(zone["times"]):
                self._over(side, sole, iron, width, set_, camber, np.array(zone["outline"]), zone["direction_deg"])

    def _over(self, side, sole, iron, width, set_, camber, outline, direction):
        e = np.array([np.cos(np.radians(direction)), np.sin(np.radians(direction))])
        n = np.array([-e[1], e[0]])
        inside = self._inside(outline)
        aside, along = outline @ n, outline @ e
        count = max(int(np.ceil((aside.max() - aside.min()) / (0.7 * width))), 1)
        for k in range(count):
            at = aside.min() + (aside.max() - aside.min()) * (k + 0.5) / count
            near = abs(aside - at) < 0.5 * width
            ends = [t for off in (0, -width / 2, width / 2) for t in self._crossed(aside, along, at + off)]
            ends += list(along[near])  # on until the whole iron is out of the place
            self._stroke(
                side, sole, iron, width, set_, camber, inside, e, n, at, min(ends) - width / 2, max(ends) + width / 2
            )

    @staticmethod
    def _crossed(aside, along, at):
        out = []
        for i in range(len(aside)):
            a, b = aside[i - 1], aside[i]
            if (a - at) * (b - at) <= 0 and a != b:
                out.append(along[i - 1] + (along[i] - along[i - 1]) * (at - a) / (b - a))
        return out

    def _inside(self, outline):
        x, y = np.meshgrid(self.x, self.y, indexing="ij")
        found = np.zeros(x.shape, bool)
        for i in range(len(outline)):
            (x0, y0), (x1, y1) = outline[i - 1], outline[i]
            crosses = (y0 > y) != (y1 > y)
            with np.errstate(divide="ignore", invalid="ignore"):
                found ^= crosses & (x < x0 + (y - y0) * (x1 - x0) / (y1 - y0))
        on = np.zeros(x.shape, bool)  # the rim of the outline, where it runs along the board's
        for i in range(len(outline)):
            p, q = np.array(outline[i - 1]), np.array(outline[i])
            run = q - p
            size = np.hypot(*run)
            if size > 0:
                s = ((x - p[0]) * run[0] + (y - p[1]) * run[1]) / size
                t = abs((x - p[0]) * run[1] - (y - p[1]) * run[0]) / size
                on |= (t < 1e-3) & (s > -1e-3) & (s < size + 1e-3)
        return found | on

    def _stroke(self, side, sole, iron, width, set_, camber, inside, e, n, at, start, end):
        self.strokes += 1
        s = np.arange(start, end + STATION, STATION)
        reach = np.arange(-(sole - iron), iron + 1, STATION)  # of the sole, from the iron
        lanes = []
        for lane in LANES:
            foot = at + lane * width / 2
            xs = (s[:, None] + reach) * e[0] + foot * n[0]
            ys = (s[:, None] + reach) * e[1] + foot * n[1]
            lanes.append(self.height(side, xs, ys))
        low, lean = self._edge(lanes, reach, set_)
        x, y = np.meshgrid(self.x, self.y, indexing="ij")
        along, aside = x * e[0] + y * e[1], x * n[0] + y * n[1] - at
        mine = inside & (abs(aside) <= width / 2 + 1e-9) & (along >= start) & (along <= end)
        if not mine.any():
            return
        t = aside[mine] / (width / 2)
        where = along[mine]
        edge = np.interp(where, s, low) + np.interp(where, s, lean) * t + camber * t * t
        z = self.up[side]
        z[mine] = np.minimum(z[mine], np.where(edge < 1e8, edge, np.inf))

    @staticmethod
    def _edge(lanes, reach, set_):
        """How high the iron's edge is in the middle at each station, and by how much it leans to either side."""
        under = np.max(lanes, axis=0)
        there = np.isfinite(under)
        count = np.maximum(there.sum(1), 1)
        press = np.where(there, reach, 0).sum(1) / count  # in the middle of what bears
        off = reach - press[:, None]
        low, high = np.full(len(under), -0.1), np.full(len(under), 0.1)
        z = np.where(there, under, -1e6)
        for _ in range(30):  # the slope that lets it lie lowest where it is pressed
            a, b = low + (high - low) * 0.38, low + (high - low) * 0.62
            worse = (z - a[:, None] * off).max(1) < (z - b[:, None] * off).max(1)
            low, high = np.where(worse, low, a), np.where(worse, b, high)
        slope = ((low + high) / 2)[:, None]
        left, middle, right = ((np.where(np.isfinite(one), one, -1e6) - slope * off).max(1) for one in lanes)
        lean = np.where(np.minimum(left, right) > -1e5, (right - left) / 2, 0.0)
        level = np.maximum(middle, np.where(lean != 0, (left + right) / 2, np.maximum(left, right)))
        return np.where(there.sum(1) > 2, level - slope[:, 0] * press - set_, 1e9), lean

    def thickness(self):
        """The least thickness of a flat board inside, as a linear programme, and the flatness of both faces."""
        from test_slab_reference import highs

        x, y = np.meshgrid(self.x, self.y, indexing="ij")
        pick = np.ix_(
            np.unique(np.linspace(0, self.rows - 1, 61).astype(int)),
            np.unique(np.linspace(0, self.columns - 1, 21).astype(int)),
        )
        x, y, face, back = x[pick], y[pick], self.up["face"][pick], -self.up["back"][pick]
        return highs(x, y, face, back), -highs(x, y, face, face), -highs(x, y, back, back)


class Maker:
    """Carries out what it is told, and reads with the errors of sticks, straightedge and caliper."""

    def __init__(self, board, step=8.0):
        self.wood, self.board = Wood(board, step), board

    def take(self, side, p):
        told = [{"outline": z.outline, "times": z.times, "direction_deg": z.direction} for z in p.zones]
        self.wood.plane(side, p.plane.sole, p.plane.iron, p.plane.width, p.plane.set, p.plane.camber, told)

    def read(self, side, readings):
        board = type(self.board).__new__(type(self.board))
        board.__dict__ |= self.board.__dict__
        board.face = lambda x, y: self._at(side, x, y)
        board.back = lambda x, y: -self._at("back", x, y)
        out = []
        for r in readings:
            if r.kind == "thickness":
                board.face = lambda x, y: self._at("face", x, y)
            out.append(board.read(r.kind, r.at, r.across, r.stick, r.to))
            board.face = lambda x, y: self._at(side, x, y)
        return out

    def _at(self, side, x, y):
        return float(self.wood.height(side, np.array([x]), np.array([y]))[0])
