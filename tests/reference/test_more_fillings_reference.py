"""The other joints of random sizes as solids: closed, and the wood that is gone is what shapes drawn by hand say."""

import itertools
import math
import os

import pytest
from two_parts import hold_to_account, joined, part, refusal, shaped

RUNS = 300 if os.environ.get("NULLAH_SOAK") else 5


def some(chance, low, high):
    return round(chance.uniform(low, high), 1)


def polygon(radius, corners=12):
    """What a hole drawn with so many corners takes up."""
    return corners * radius**2 * math.sin(2 * math.pi / corners) / 2


def cornered(chance):
    """Two boards that meet at a corner, whatever goes between: the corner is there once."""
    one, other, wide = some(chance, 8, 35), some(chance, 8, 35), some(chance, 40, 300)
    first = part("front", 300, wide, one, "front", "up")
    second = part("side", 200, wide, other, "right", "up", (300, one, 0))
    return first, second, 300 * wide * one + 200 * wide * other + one * other * wide


def fingers(chance):
    """Fingers over a corner: an odd number alike, one more of them on the second."""
    first, second, whole = cornered(chance)
    finger = some(chance, 4, 40)
    now = joined("finger_joint", first, second, "right", finger=finger)
    return now, whole, {}


def dovetails(chance):
    """Through dovetails over a corner: from the second go the tails, each wider at its end by its height over the slope, twice."""
    first, second, whole = cornered(chance)
    asked = {"tails": chance.randint(1, 6), "pin": some(chance, 3, 15), "slope": some(chance, 5, 10)}
    return joined("through_dovetail", first, second, "right", **asked), whole, {}


def half_blind(chance):
    """Half-blind dovetails: the sockets stop at the lap, and so do the tails."""
    first, second, whole = cornered(chance)
    asked = {"tails": chance.randint(1, 5), "pin": some(chance, 3, 15), "slope": some(chance, 5, 10)}
    return joined("half_blind_dovetail", first, second, "right", lap=some(chance, 2, 8), **asked), whole, {}


def bridled(chance):
    """A tenon as wide as its rail in a slot of a stile that is open at its end."""
    rail, stile, thick = some(chance, 20, 90), some(chance, 20, 90), some(chance, 12, 40)
    tenon = some(chance, 3, thick - 4)
    first = part("rail", 300, rail, thick, "front", "up")
    second = part("stile", 400, stile, thick, "front", "right", (300, 0, chance.choice([0, rail - 400])))
    gone = rail * stile * tenon
    left = {"rail": 300 * rail * thick + gone, "stile": 400 * stile * thick - gone}
    return joined("bridle", first, second, "right", tenon=tenon), sum(left.values()), left


def splined(chance):
    """Two boards edge to edge, each with a groove that stops short of both ends."""
    one, other, thick, long = some(chance, 60, 200), some(chance, 60, 200), some(chance, 8, 40), some(chance, 200, 900)
    asked = {"tongue": some(chance, 2, thick - 2), "depth": some(chance, 3, 30), "stop": some(chance, 0, 90)}
    off = some(chance, -100, 100)
    first = part("one", long, one, thick, "up", "back", (0, 0, 0))
    second = part("other", long, other, thick, "up", "back", (off, one, 0))
    groove = asked["tongue"] * asked["depth"] * (long - abs(off) - 2 * asked["stop"])
    left = {"one": long * one * thick - groove, "other": long * other * thick - groove}
    return joined("splined_edge", first, second, "back", **asked), sum(left.values()), left


def dowelled(chance):
    """A rail against a leg: two holes for each dowel, a millimetre deeper than it goes."""
    high, thick, leg = some(chance, 50, 200), some(chance, 14, 40), some(chance, 30, 80)
    asked = {"diameter": some(chance, 5, thick / 2), "pitch": some(chance, 20, 80), "deep": some(chance, 8, leg - 6)}
    asked |= {"end": some(chance, 10, 24)}
    first = part("rail", 400, high, thick, "front", "up")
    second = part("leg", high, leg, leg, "front", "right", (400, 0, 0))
    count = math.ceil(round((high - 2 * asked["end"]) / asked["pitch"], 6)) + 1
    gone = count * polygon(asked["diameter"] / 2) * (asked["deep"] + 1)
    left = {"rail": 400 * high * thick - gone, "leg": high * leg * leg - gone}
    return joined("dowels", first, second, "right", **asked), sum(left.values()), left


def shelved(chance):
    """A shelf in a dado of a side, stopped or not, shouldered or not, with or without room at its bottom."""
    thick, side, deep = some(chance, 10, 30), some(chance, 14, 40), some(chance, 100, 300)
    depth = some(chance, 3, side / 2)
    asked = {"depth": depth, "free": chance.choice([0.0, some(chance, 0.5, 2)])}
    asked |= {"stop": chance.choice([0.0, some(chance, 5, 40)]), "edge": chance.choice(["front", "back"])}
    asked |= {"shoulder": chance.choice([0.0, some(chance, 1, thick / 2)])}
    first = part("shelf", 300, deep, thick, chance.choice(["up", "down"]), "back", (0, 0, 240))
    second = part("side", 500, deep, side, chance.choice(["right", "left"]), "back", (300, 0, 0))
    across = (deep - asked["stop"]) * (thick - asked["shoulder"])
    left = {
        "shelf": 300 * deep * thick + across * (depth - asked["free"]),
        "side": 500 * deep * side - across * depth,
    }
    return joined("dado", first, second, "right", **asked), sum(left.values()), left


def panelled(chance):
    """The end of a panel in a groove of a stile: flat, rabbeted or bevelled. It does not move that way."""
    thick, wide, stile = some(chance, 8, 24), some(chance, 100, 400), some(chance, 40, 90)
    deep = round(thick + some(chance, 4, 20), 1)
    edge = some(chance, 3, thick - 2)
    depth, free, field = some(chance, 4, 15), some(chance, 0.1, 1.5), some(chance, 16, 80)
    asked = {"depth": depth, "free": free, "panel": chance.choice(["flat", "rabbeted", "bevelled"])}
    first = part("panel", 300, wide, thick, "front", "up", (0, 4, 60))
    second = part("stile", wide + 120, stile, deep, "front", "right", (300, 0, 0))
    reach, shoulder = depth - free, thick - edge
    off, groove = 0.0, thick
    if asked["panel"] != "flat":
        asked |= {"tongue": edge, "field": field}
        off = field * shoulder * wide / (1 if asked["panel"] == "rabbeted" else 2)
        groove = edge + (shoulder * reach / field if asked["panel"] == "bevelled" else 0)
    left = {
        "panel": (300 + reach) * wide * thick - off,
        "stile": (wide + 120) * stile * deep - groove * depth * wide,
    }
    return joined("groove", first, second, "right", **asked), sum(left.values()), left


def lidded(chance):
    """The edge of a lid in a side, out at the side's end or beyond it: as a panel, and it does not move that way of the year here."""
    thick, wide, side, long = some(chance, 8, 20), some(chance, 100, 300), some(chance, 14, 30), some(chance, 150, 500)
    depth, free, field, edge = some(chance, 3, 10), some(chance, 0.1, 1.5), some(chance, 12, 40), some(chance, 3, 7)
    out = chance.choice([0.0, some(chance, 1, 20)])
    asked = {"depth": depth, "free": free, "panel": chance.choice(["flat", "rabbeted", "bevelled"])}
    face = chance.choice(["up", "down"])
    first = part("lid", long, wide, thick, face, "back", (out, 0, 60))
    second = part("side", long + 30, 90, side, "back", "up", (out - 30 if out else 0, wide, 0))
    reach, groove = depth - free, thick
    off = 0.0
    if asked["panel"] != "flat":
        asked |= {"tongue": edge, "field": field}
        off = field * (thick - edge) * long / (1 if asked["panel"] == "rabbeted" else 2)
        groove = edge
    now = joined("sliding_lid", first, second, "back", **asked)
    if not now.joints.joints:
        return now, None, {}
    if asked["panel"] == "bevelled":  # as wide as the edge is thick where it comes to in the wettest month
        groove = now.joints.joints[0].figures["width"]
        assert groove >= edge + (thick - edge) * reach / field - 1e-6
    left = {"lid": long * (wide + reach) * thick - off, "side": (long + 30) * 90 * side - groove * depth * long}
    return now, sum(left.values()), left


def rabbeted(chance):
    """A back in the edge of a side."""
    thick, side, deep, long = some(chance, 5, 18), some(chance, 12, 30), some(chance, 100, 300), some(chance, 200, 600)
    depth = some(chance, 2, side / 2)
    first = part("back", long, 200, thick, "back", "left", (0, deep - thick, 0))
    second = part("side", long, deep, side, "right", "back", (200, 0, 0))
    left = {"back": long * (200 + depth) * thick, "side": long * deep * side - long * depth * thick}
    return joined("rabbet", first, second, "right", depth=depth), sum(left.values()), left


def glued(chance):
    """Two boards edge to edge: nothing is taken off."""
    one, other, thick, long = some(chance, 60, 200), some(chance, 60, 200), some(chance, 8, 40), some(chance, 200, 900)
    first = part("one", long, one, thick, "up", "back")
    left = {"one": long * one * thick, "other": long * other * thick}
    return (
        joined("edge_joint", first, part("other", long, other, thick, "up", "back", (0, one, 0)), "back"),
        sum(left.values()),
        left,
    )


def row(long):
    """How many screws or nails: an inch from the ends, 150 apart at the most."""
    return max(2 if long > 50 else 1, math.ceil((long - 50) / 150) + 1)


def screwed(chance):
    """A strip screwed to a board: holes half a millimetre wider, or slots with the middle one round; pilots of 0.7."""
    thick, long, board = some(chance, 8, 25), some(chance, 60, 700), some(chance, 20, 50)
    screw, slotted = some(chance, 3, 6), chance.random() < 0.5
    asked = {"screw": screw, "long": some(chance, thick + 4, thick + board - 1), "slotted": slotted}
    asked |= {"slot": some(chance, 8, 20)} if slotted else {}
    first = part("strip", long, 40, thick, "up", "back", (0, 30, 0))
    second = part("board", long, 100, board, "up", "back", (0, 0, -board))
    count, radius = row(long), screw / 2 + 0.25
    clear = count * polygon(radius)
    if slotted:  # the two halves of a hole are moved apart; it is 2 r cos 15 high there
        clear += (count - count % 2) * max(0.0, asked["slot"] - 2 * radius) * 2 * radius * math.cos(math.pi / 12)
    pilots = count * polygon(round(0.7 * screw, 1) / 2) * (asked["long"] - thick)
    left = {"strip": (long * 40 - clear) * thick, "board": long * 100 * board - pilots}
    return joined("butt_screws", first, second, "down", **asked), sum(left.values()), left


def battened(chance):
    """A batten across a wide board: all its holes are slots but the middle one."""
    thick, wide, board = some(chance, 12, 30), some(chance, 120, 700), some(chance, 14, 40)
    asked = {
        "screw": some(chance, 3, 6),
        "long": some(chance, thick + 4, thick + board - 1),
        "slot": some(chance, 8, 20),
    }
    first = part("batten", wide, 50, thick, "up", "right", (100, 0, -thick))
    second = part("board", 500, wide, board, "up", "back")
    count, radius = row(wide), asked["screw"] / 2 + 0.25
    clear = count * polygon(radius)
    clear += (count - count % 2) * max(0.0, asked["slot"] - 2 * radius) * 2 * radius * math.cos(math.pi / 12)
    pilots = count * polygon(round(0.7 * asked["screw"], 1) / 2) * (asked["long"] - thick)
    left = {"batten": (wide * 50 - clear) * thick, "board": 500 * wide * board - pilots}
    return joined("batten_in_slots", first, second, "up", **asked), sum(left.values()), left


def nailed(chance):
    """A side over the edge of an end, both there: a rabbet as wide as the end is thick, and a notch for what is left of the side."""
    one, other, high, deep = some(chance, 10, 30), some(chance, 10, 30), some(chance, 60, 400), some(chance, 100, 400)
    depth = some(chance, 2, other - 2)
    first = part("end", high, deep, one, chance.choice(["left", "right"]), "front", (chance.choice([0, 570]), 0, 0))
    second = part("side", 600, high, other, "front", "up", (0, 0, 0))
    asked = {"depth": depth, "long": some(chance, 50, 80), "held": chance.choice(["nails", "screws"])}
    left = {
        "end": high * one * (deep - (other - depth)),
        "side": high * (600 * other - one * depth),
    }
    return joined("nailed_rabbet", first, second, "front", **asked), sum(left.values()), left


def buttoned(chance):
    """A top on a rail: a mortise for each button, as deep as the plan says (the seasons have a test of their own), and a pilot."""
    long, wide, top, rail = some(chance, 300, 1200), some(chance, 200, 700), some(chance, 12, 40), some(chance, 18, 40)
    asked = {"tongue": some(chance, 4, 14), "wide": some(chance, 15, 50), "pitch": some(chance, 100, 400)}
    asked |= {"end": some(chance, 30, 90), "clearance": some(chance, 0, 3)}
    high, run = some(chance, 40, 120), some(chance, 200, wide if (across := chance.random() < 0.5) else long)
    looks, at = (["left", "right"], (60, 0, 0)) if across else (["front", "back"], (0, 60, 0))
    first = part("rail", run, high, rail, chance.choice(looks), "up", at)
    second = part("top", long, wide, top, "up", "back", (0, 0, high))
    now = joined("buttons", first, second, "up", **asked)
    count = math.ceil(round((run - 2 * asked["end"]) / asked["pitch"], 6)) + 1
    pilots = count * polygon(1.4) * 0.6 * top
    if not now.joints.joints:
        return now, None, {}
    figures = now.joints.joints[0].figures
    mortises = sum(asked["wide"] + 2 * figures[f"slot {n}"] for n in range(1, count + 1))
    left = {
        "rail": run * high * rail - mortises * asked["tongue"] * figures["depth"],
        "top": long * wide * top - pilots,
    }
    return now, sum(left.values()), left


def tapered_leg(chance):
    """A leg tapered on two faces that meet, or on two that look away from each other: the prismoidal formula."""
    long, leg = some(chance, 200, 900), some(chance, 25, 90)
    foot, start = some(chance, 8, leg), some(chance, 0, long / 2)
    faces = chance.choice(["right back", "right left", "front"])
    ends = {"right back": (foot, foot), "right left": (foot, leg), "front": (leg, foot)}[faces]
    middle = math.prod((leg + end) / 2 for end in ends)
    whole = leg * leg * start + (long - start) / 6 * (leg * leg + 4 * middle + math.prod(ends))
    one = part("leg", long, leg, leg, "front", "right")
    return shaped("taper", one, "down", faces=faces, foot=foot, start=start), whole, {}


def chamfered(chance):
    """All round a face, mitred: at each depth a ring is gone."""
    long, wide, thick = some(chance, 100, 600), some(chance, 60, 300), some(chance, 10, 50)
    size = some(chance, 0.5, min(thick - 1, wide / 2 - 1, 20))
    gone = size**2 * (long + wide) - 4 * size**3 / 3
    return (
        shaped("chamfer", part("top", long, wide, thick, "up", "back"), "up", size=size),
        long * wide * thick - gone,
        {},
    )


def bevelled(chance):
    """A broad bevel down to an edge, all round."""
    long, wide, thick = some(chance, 200, 600), some(chance, 100, 300), some(chance, 8, 30)
    broad, edge = some(chance, 5, 48), some(chance, 2, thick - 1)
    gone = (thick - edge) * (broad * (long + wide) - 4 * broad**2 / 3)
    one = part("top", long, wide, thick, "up", "back")
    return shaped("bevel", one, "up", wide=broad, edge=edge), long * wide * thick - gone, {}


def bored(chance):
    """A hole into a face, through or to a depth, drawn with 32 corners."""
    long, wide, thick = some(chance, 100, 600), some(chance, 60, 300), some(chance, 10, 50)
    asked = {
        "diameter": some(chance, 3, 40),
        "along": some(chance, 25, long - 25),
        "across": some(chance, 25, wide - 25),
    }
    asked |= {"deep": chance.choice([0.0, some(chance, 2, thick)])}
    gone = polygon(asked["diameter"] / 2, 32) * (asked["deep"] or thick)
    return (
        shaped("bored_hole", part("top", long, wide, thick, "up", "back"), "up", **asked),
        long * wide * thick - gone,
        {},
    )


def cut_out(chance):
    """An opening in an edge with square corners."""
    long, wide, thick = some(chance, 200, 600), some(chance, 60, 300), some(chance, 10, 50)
    asked = {"wide": some(chance, 20, long - 40), "deep": some(chance, 5, wide - 10), "radius": 0.0}
    asked |= {"off": some(chance, -15, 15)}
    one = part("top", long, wide, thick, "up", "back")
    whole = (long * wide - asked["wide"] * asked["deep"]) * thick
    return shaped("cut_out", one, chance.choice(["front", "back"]), **asked), whole, {}


def ring(profile, long, wide):
    """What goes off all round a face where a profile is mitred: at each depth a ring as broad as the profile is there.

    ``profile``: steps (broad at the upper depth, at the lower, height) of straight bits; each is four prismatoids.
    """
    gone = 0.0
    for upper, lower, height in profile:
        middle = (upper + lower) / 2
        rings = [2 * b * (long + wide) - 4 * b * b for b in (upper, middle, lower)]
        gone += height / 6 * (rings[0] + 4 * rings[1] + rings[2])
    return gone


def quarter(radius, deep, bits=12):
    """A quarter of a circle or an ellipse in straight bits, round outwards: (from its arris, how deep) at each corner."""
    turns = [n * math.pi / 2 / bits for n in range(bits + 1)]
    return [(radius * (1 - math.sin(t)), deep * (1 - math.cos(t))) for t in turns]


def edges_of(chance, thick):
    """Of a moulded board: its size, and the ring's or the run's length for what is taken off along its edges."""
    return some(chance, 150, 600), some(chance, 120, 300), some(chance, thick, 50)


def taken_off(points, long, wide, edges):
    """All round, or along the front alone."""
    steps = [(a, b, low - high) for (a, high), (b, low) in itertools.pairwise(points)]
    if edges == "all":
        return ring(steps, long, wide)
    return long * sum((a + b) / 2 * height for a, b, height in steps)


def rounded(chance):
    """A quarter of a circle on the arrises of a face."""
    long, wide, thick = edges_of(chance, 10)
    radius, edges = some(chance, 0.5, min(thick - 2, 40)), chance.choice(["all", "front"])
    gone = taken_off(quarter(radius, radius), long, wide, edges)
    one = part("top", long, wide, thick, "up", "back")
    return shaped("round_over", one, "up", radius=radius, edges=edges), long * wide * thick - gone, {}


def moulded(chance):
    """A cove, an ogee or a thumbnail: what a quarter of a circle or of an ellipse leaves."""
    long, wide, thick = edges_of(chance, 12)
    broad, edges = some(chance, 2, 40), chance.choice(["all", "front"])
    profile = chance.choice(["cove", "ogee", "thumbnail"])
    deep = broad * {"cove": 1.0, "ogee": 0.8, "thumbnail": 0.45}[profile]

    turns = [n * math.pi / 24 for n in range(13)]
    hollow = [(math.cos(t), math.sin(t)) for t in turns]  # of a circle of 1 about the arris
    if profile == "cove":
        points = [(broad * x, broad * y) for x, y in hollow]
    elif profile == "thumbnail":
        points = [(broad, 0.0), (broad, deep / 5), *((x, deep / 5 + y) for x, y in quarter(broad, deep * 4 / 5)[1:])]
    else:
        points = [(broad / 2 * (1 + x), deep / 2 * y) for x, y in hollow]
        points += [(x, deep / 2 + y) for x, y in quarter(broad / 2, deep / 2)[1:]]
    gone = taken_off(points, long, wide, edges)
    one = part("top", long, wide, thick, "up", "back")
    return shaped("moulding", one, "up", profile=profile, wide=broad, edges=edges), long * wide * thick - gone, {}


KINDS = (
    fingers,
    dovetails,
    half_blind,
    bridled,
    splined,
    dowelled,
    shelved,
    panelled,
    lidded,
    rabbeted,
    glued,
    screwed,
    battened,
    nailed,
    buttoned,
    tapered_leg,
    chamfered,
    bevelled,
    rounded,
    moulded,
    bored,
    cut_out,
)


@pytest.mark.parametrize("kind", KINDS, ids=[k.__name__ for k in KINDS])
def test_soak_wood_is_where_it_should_be(kind):
    hold_to_account(kind, RUNS)


@pytest.mark.parametrize(
    ("asked", "told"),
    [
        ({"wide": 60.0, "pitch": 62.0, "end": 40.0}, True),  # 380 between the ends in seven: 54 apart, 60 wide
        ({"wide": 30.0, "pitch": 62.0, "end": 12.0}, True),  # 12 from the end, half of 30 to either side
        ({"wide": 30.0, "pitch": 62.0, "end": 40.0}, False),
    ],
)
def test_mortises_for_buttons_do_not_meet_nor_run_out_of_an_end(asked, told):
    rail = part("rail", 460, 80, 25, "front", "up", (20, 40, 0))
    now = joined("buttons", rail, part("top", 500, 300, 20, "up", "back", (0, 0, 80)), "up", **asked)
    assert ("run into each other" in refusal(now)) == told
    assert bool(now.joints.joints) != told
