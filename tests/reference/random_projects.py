"""Projects at random for the oracles: boxes of every kind on boards with faults, tapers, moistures and rings; some laid out."""

import random

from shapely.geometry import Polygon

from nullah import demo
from nullah.core.document.pieces import Contents, Piece
from nullah.core.document.project import Board, Defect, Project, Room
from nullah.core.edits import edit
from nullah.core.planning.plan import plan
from nullah.core.stations import breakdown

SPECIES = ("white ash", "western larch", "American elm", "black cherry", "yellow-poplar", "eastern white pine")


def edges(chance, length, width, above, below):
    """An upper and a lower edge of some points each, where asked for; they leave some three tenths of the width between them."""
    out = []
    for asked, low, high in ((above, 0.6, 1.0), (below, 0.0, 0.3)):
        places = sorted(chance.uniform(0, length) for _ in range(chance.randint(2, 6))) if asked else []
        out.append(tuple((x, width * chance.uniform(low, high)) for x in places))
    return tuple(out)


def outline(board):
    """The wood of a board as a polygon: its edges go on level beyond their first and last points."""
    top, low = board.upper or ((0.0, board.width),), board.lower or ((0.0, 0.0),)
    ring = [(0.0, low[0][1]), *low, (board.length, low[-1][1]), (board.length, top[-1][1]), *reversed(top)]
    return Polygon([*ring, (0.0, top[0][1])])


def boards(chance, species, thick):
    """One to three boards of each species wanted, thick enough."""
    out = []
    for wood in sorted(set(species)):
        for _ in range(chance.randint(1, 3)):
            n = len(out)
            length, width = chance.uniform(700, 2400), chance.uniform(110, 260)
            upper, lower = edges(chance, length, width, chance.random() < 0.4, chance.random() < 0.2)
            faults = tuple(
                Defect(
                    id=f"{k}",
                    kind=chance.choice(["sound knot", "loose knot", "check", "split"]),
                    x=chance.choice([0.0, chance.uniform(0, length - 60)]),
                    y=chance.uniform(0, width - 30),
                    length=chance.uniform(8, 60),
                    width=chance.uniform(5, 30),
                )
                for k in range(chance.randint(0, 4))
            )
            out.append(
                Board(
                    id=f"b{n}",
                    name=f"Board {n}",
                    species=wood,
                    length=length,
                    width=width,
                    thickness=thick + chance.uniform(2, 8),
                    upper=upper,
                    lower=lower,
                    defects=faults,
                    ring_angle=chance.choice([0.0, 30.0, 45.0, 90.0, chance.uniform(0, 90)]),
                    heart_side=chance.choice(["face", "back"]),
                    moisture=chance.choice([chance.uniform(5, 16), chance.uniform(8, 11)]),
                    straight_edge=chance.choice(["lower", "upper", "neither"]),
                    upper_edge=chance.choice(["sawn", "rough", "wany"]),
                )
            )
    return tuple(out)


def random_project(seed, laid=True):
    """A project; None where it asks for a box that cannot be, or nothing of it has a place."""
    chance = random.Random(seed)
    wall = round(chance.uniform(9, 20), 1)
    woods = [chance.choice(SPECIES) for _ in range(3)] if chance.random() < 0.7 else [chance.choice(SPECIES)] * 3
    piece = Piece(
        contents=Contents(
            count=chance.randint(1, 30),
            width=chance.uniform(40, 160),
            height=chance.uniform(30, 120),
            thickness=chance.uniform(3, 20),
            stand=chance.choice(["upright", "on edge", "flat"]),
        ),
        wiggle=chance.uniform(1, 5),
        dividers=chance.randint(0, 4),
        divider_thickness=chance.uniform(6, 10),
        wall=wall,
        bottom_thickness=chance.uniform(5, 9),
        lid=chance.choice(["none", "sliding", "lift-off"]),
        lid_thickness=chance.uniform(7, 12),
        pin=chance.uniform(4, 9),
        wall_species=woods[0],
        panel_species=woods[1],
        lid_species=woods[2],
    )
    dry = chance.uniform(25, 45)
    room = Room(temperature=chance.uniform(12, 24), humidity_dry=dry, humidity_wet=dry + chance.uniform(10, 35))
    project = Project(piece=piece, boards=boards(chance, woods, wall), room=room)
    for kerf in ("rip_kerf", "crosscut_kerf"):
        project = edit.set_in(project, "kit", kerf, chance.uniform(0.6, 2.5))
    now = plan(project)
    if now.piece.in_hand.own is None or now.joints.problem:
        return None
    if not laid:
        return project
    for call in now.calls:
        if call.station in ("piece", "timber", "breakdown", "joints") and chance.random() < 0.4:
            fresh = plan(project).call(call.id)
            if fresh is not None:
                project = edit.take(project, fresh, chance.choice(fresh.options).id)
    now = plan(project)
    if now.piece.in_hand.own is None or now.joints.problem:
        return None
    result = now.breakdown
    found = breakdown.offers(result.request)
    if not found or not found[0].boards:
        return None
    best = chance.choice(found)
    return project.model_copy(update={"layout": breakdown.accept(best, result.request.fingerprint)})


def several(many, first=0, laid=True):
    """So many projects that can be planned, and the demo."""
    out, seed = [demo.box()], first
    while len(out) < many:
        project = random_project(seed, laid)
        if project is not None:
            out.append(project)
        seed += 1
    return out
