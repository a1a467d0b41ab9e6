"""A piece with eleven kinds of joint: each thing that goes into it changed a little, and every setting that depends on that changes and
none other.

What depends on what is written here by hand, from how each joint is laid out (common practice, no source).
"""

from functools import cache

import pytest
from two_parts import part

from nullah.core.document.boards import Board, Room
from nullah.core.document.pieces import Designed
from nullah.core.document.project import Project
from nullah.core.edits import piece_edits
from nullah.core.planning.plan import plan

# pairs of parts, each pair apart from the others: (first, second, family, way, what is asked)
PARTS = {
    "shelf": part("shelf", 300, 200, 18, "up", "back", (0, 0, 240)),
    "side": part("side", 500, 200, 20, "right", "back", (300, 0, 0)),
    "ledge": part("ledge", 300, 180, 17, "up", "back", (2000, 0, 240)),
    "cheek": part("cheek", 500, 180, 21, "right", "back", (2300, 0, 0)),
    "rail": part("rail", 400, 80, 24, "front", "up", (4000, 0, 0)),
    "leg": part("leg", 120, 45, 45, "front", "right", (4400, -10, 0)),
    "brace": part("brace", 300, 50, 18, "front", "up", (6000, 0, 0)),
    "stile": part("stile", 400, 60, 18, "front", "right", (6300, 0, 0)),
    "slat": part("slat", 400, 70, 19, "front", "up", (8000, 0, 0)),
    "post": part("post", 100, 46, 46, "front", "right", (8400, 0, 0)),
    "seat": part("seat", 500, 160, 22, "up", "back", (10_000, 0, 0)),
    "end": part("end", 600, 220, 23, "left", "back", (10_500, -30, -300)),
    "tie": part("tie", 400, 50, 20, "up", "back", (12_000, 5, 700)),
    "pillar": part("pillar", 720, 60, 60, "front", "right", (12_400, 0, 0)),
    "trim": part("trim", 400, 60, 16, "up", "back", (14_000, 0, 0)),
    "edging": part("edging", 300, 64, 16, "up", "left", (14_400, 0, 0)),
    "top": part("top", 700, 400, 25, "up", "back", (16_000, 0, 0)),
    "cap": part("cap", 400, 90, 25, "up", "left", (16_700, 0, 0)),
    "panel": part("panel", 300, 260, 8, "front", "right", (18_000, 6, 0)),
    "frame": part("frame", 300, 60, 26, "front", "right", (18_260, 0, 0)),
    "batten": part("batten", 380, 40, 15, "up", "left", (20_000, 0, 0)),
    "board": part("board", 600, 400, 27, "up", "back", (19_900, 0, 15)),
}
JOINTS = {
    "dado": ("shelf", "side", "right", {}),
    "sliding_dovetail": ("ledge", "cheek", "right", {}),
    "mortise_and_tenon": ("rail", "leg", "right", {"hold": "drawbored"}),
    "bridle": ("brace", "stile", "right", {}),
    "dowels": ("slat", "post", "right", {}),
    "tusk_tenon": ("seat", "end", "right", {}),
    "lapped_dovetail": ("tie", "pillar", "right", {}),
    "mitre": ("trim", "edging", "right", {}),
    "breadboard_end": ("top", "cap", "right", {"staves": 3}),
    "groove": ("panel", "frame", "right", {}),
    "batten_in_slots": ("batten", "board", "up", {}),
}
T, W, L = "thickness", "width", "length"
# of each joint: setting's use begins so -> what it depends on, as (part, dimension), an ask's name, or what lies outside
DEPENDS = {
    "dado": {
        "width of the dado": {("shelf", T)},
        "near wall of the dado": set(),
        "depth of the dado": {("side", T), "depth"},
    },
    "sliding_dovetail": {
        "mouth of the socket": {("ledge", T), ("cheek", T), "depth", "slope"},
        "depth of the socket": {("cheek", T), "depth"},
        "walls of the socket": {"slope"},
        "shoulders of ledge": {("cheek", T), "depth"},
    },
    "mortise_and_tenon": {
        "tenon and mortise": {("rail", T), "thickness", "chisels"},
        "tenon of rail, from the face": {("rail", T), "thickness", "chisels"},
        "mortise gauge, nearer pin: mortise for rail": {("rail", T), "thickness", "chisels"},
        "shoulder of rail": {("leg", W), "length"},
        "upper shoulder": {"upper_shoulder"},
        "lower shoulder": {"lower_shoulder"},
        "depth mark on the chisel: mortise for rail": {("leg", W), "length"},
        "2 pegs of rail": {"peg"},
        "pegs of rail, from": {"peg"},  # a third of so short a tenon is nearer than a peg bears
        "hole in the tenon": {"peg", "draw", "wood"},
    },
    "bridle": {
        "slot and tenon": {("brace", T), "tenon"},
        "tenon of brace": {("brace", T), "tenon"},
        "slot of stile, from": {("stile", T), "tenon"},
        "shoulder line of brace": {("stile", W)},
        "floor of the slot": {("brace", W)},
    },
    "dowels": {
        "bit: holes for dowels": {("slat", T), "diameter", "bits"},
        "depth mark on the bit: holes for dowels": {("slat", T), "diameter", "bits", "deep"},
        "middle of the dowels of slat": {("slat", T)},
        "middle of the dowels of post": {("slat", T)},
        "first dowel of slat": {("slat", T), "diameter", "end", "bits"},
        "first dowel of post": {("slat", T), "diameter", "end", "bits"},
        "dowels of slat": {("slat", T), ("slat", W), "diameter", "end", "bits", "pitch"},
    },
    "tusk_tenon": {
        "shoulder of seat": {("end", T), ("seat", T), "small", "slope", "beyond"},
        "edges of the tenon": {"edge"},
        "mortise of end": {("seat", W), "edge"},
        "mortise for the wedge": {"wedge", "chisels", "tenon wide"},
        "wedge's mortise in seat": {"inside"},
        "wedge of seat where it goes in": {("seat", T), "small", "slope"},
        "wedge of seat where it comes out": {"small"},
    },
    "lapped_dovetail": {
        "shoulder of tie": {("pillar", W), "length"},
        "tail of tie at": {("pillar", W), ("tie", W), "length", "slope", "neck"},
        "tail of tie": {"slope"},
        "floor of the socket": {("tie", T), "deep"},
    },
    "mitre": {
        "inside of the mitre on trim": {("edging", W)},
        "inside of the mitre on edging": {("trim", W)},
        "mitre of trim": {("edging", W), ("trim", W)},
        "mitre of edging": {("edging", W), ("trim", W)},
        "keys of trim": {("trim", W), "leg"},
        "slots for keys": {"key"},
    },
    "breadboard_end": {
        "mortise gauge: tongue of top": {"thickness", "chisels over"},
        "tongue of top, from the face": {("top", T), "thickness"},
        "groove of cap, from the face": {("top", T), ("cap", T), "thickness"},
        "shoulder of top": {("cap", W), "length"},
        "haunch between": {("cap", W), "length"},
        "depth line: groove of cap": {("cap", W), "length"},
        "mortises of cap": {("cap", W), "length"},
        "mortise of tenon 3 of top: longer outward": {("top", W), "wet", "clearance", "wood", "made at"},
        "mortise of tenon 3 of top: longer inward": {("top", W), "dry", "clearance", "wood", "made at"},
        "pegs of cap": {"peg"},
    },
    "groove": {
        "width of the groove": {("panel", T)},
        "near wall of the groove": set(),
        "depth of the groove": {("frame", T), "depth"},  # a third of its thickness, also in its edge
    },
    "batten_in_slots": {
        "slots through": {"screw"},
        "drill: pilots in": {"screw"},
        "depth mark on the bit: pilots in": {("batten", T)},
        "first screw": set(),
        "last screw": set(),
    },
}


@cache
def joined():
    """The piece, and which family each of its joints is of."""
    project = Project(pieces=(Designed(kind="free", name="Try", edits=tuple(PARTS.values())),))
    names = {}
    for family, (first, second, way, asked) in JOINTS.items():
        before = {getattr(e, "id", "") for e in project.in_hand.edits}
        project = piece_edits.add_joint(project, plan(project), family, first, second, way)
        (name,) = {getattr(e, "id", "") for e in project.in_hand.edits} - before
        names[name] = family
        for what, value in asked.items():
            project = piece_edits.put_figure(project, name, what, value)
    return project.in_hand, names


def made(parts=None, asked=None, kit=None, room=None, moisture=9.0, wood="yellow-poplar"):
    """Settings by joint and by what each begins with."""
    piece, names = joined()
    edits = tuple(
        {**PARTS, **(parts or {})}[e.id].model_copy(update={"species": wood}) if e.edit == "part" else e
        for e in piece.edits
    )
    board = Board(id="b", name="B", species=wood, length=3000, width=300, thickness=40, moisture=moisture)
    project = Project(pieces=(piece.model_copy(update={"edits": edits}),), boards=(board,), room=room or Room())
    project = project.model_copy(update={"kit": project.kit.model_copy(update=kit or {})})
    for name, family in names.items():
        for what, value in (asked or {}).get(family, {}).items():
            project = piece_edits.put_figure(project, name, what, value)
    now = plan(project)
    found = {}
    for joint in now.joints.joints:
        family = names[joint.id]
        for setting in joint.settings:
            for said in told_by(setting):
                fits = [
                    use for use in DEPENDS[family] if said.startswith(use) or f"{setting.tool}: {said}".startswith(use)
                ]
                if fits:
                    found[family, max(fits, key=len)] = (setting.value and round(setting.value, 6), setting.text)
    return found


def told_by(setting):
    """What a setting marks, part by part, and where it is measured from."""
    return [f"{m.to}, from the {m.origin}" if m.origin else m.to for m in setting.marks] or [setting.use]


def moved(before, after):
    assert before.keys() == after.keys()
    return {k for k in before if before[k] != after[k]}


def expected(cause, family=None):
    return {
        (f, use)
        for f, uses in DEPENDS.items()
        for use, causes in uses.items()
        if cause in causes and family in (None, f)
    }


@pytest.fixture(scope="module")
def plain():
    found = made()
    assert {f for f, _ in found} == set(JOINTS)
    assert set(found) == {(f, use) for f, uses in DEPENDS.items() for use in uses}
    return found


FURTHER = {
    ("rail", T): 14.0,
    ("slat", T): 4.0,
    ("top", W): 60.0,
}  # mm: until another tool is nearest, or a tenth of a mm is seen
LEVEL = {("panel", T), ("trim", T), ("edging", T), ("brace", T), ("stile", T)}  # with their mates


def where(name, axis, by):
    """A part moved along an axis of the piece."""
    at = list(PARTS[name].at)
    at[axis] += by
    return {name: PARTS[name].model_copy(update={"at": tuple(at)})}


@pytest.mark.parametrize("name", sorted(PARTS))
@pytest.mark.parametrize("dimension", [T, W, L])
def test_a_part_of_another_size_changes_what_depends_on_it(plain, name, dimension):
    if (name, dimension) in LEVEL:
        pytest.skip("its mate is as thick")
    one = PARTS[name]
    more = FURTHER.get((name, dimension), 1.5 if dimension == T else 3.0)
    parts = {}
    mate = next((second for first, second, way, _ in JOINTS.values() if first == name and way == "right"), "")
    if mate and dimension == (W if name == "panel" else L):
        parts |= where(mate, 0, more)  # which it goes on to
    if (name, dimension) in (("tie", T), ("pillar", L)):
        parts |= where(name, 2, -more)  # so that their ends stay level
    if (name, dimension) == ("batten", T):
        parts |= where("board", 2, more)
    parts[name] = parts.get(name, one).model_copy(update={dimension: getattr(one, dimension) + more})
    assert moved(plain, made(parts=parts)) == expected((name, dimension))


ASKED = {
    "dado": {"depth": 5.0},
    "sliding_dovetail": {"depth": 5.0, "slope": 6.0},
    "mortise_and_tenon": {
        "thickness": 6.5,
        "length": 25.0,
        "upper_shoulder": 6.0,
        "lower_shoulder": 13.0,
        "peg": 6.0,
        "draw": 2.0,
    },
    "bridle": {"tenon": 7.0},
    "dowels": {"diameter": 6.0, "end": 12.0, "pitch": 25.0},
    "tusk_tenon": {"small": 13.0, "slope": 9.0, "beyond": 30.0, "edge": 8.0, "wedge": 9.0, "inside": 3.0},
    "lapped_dovetail": {"length": 25.0, "slope": 8.0, "neck": 30.0, "deep": 15.0},
    "mitre": {"leg": 30.0, "key": 2.0},
    "breadboard_end": {"thickness": 7.0, "length": 50.0, "clearance": 2.0, "peg": 6.0},
    "groove": {"depth": 7.0},
    "batten_in_slots": {"screw": 5.0},
}


@pytest.mark.parametrize(("family", "ask"), [(f, a) for f, asks in ASKED.items() for a in asks])
def test_what_is_asked_of_a_joint_changes_its_own_settings_alone(plain, family, ask):
    assert moved(plain, made(asked={family: {ask: ASKED[family][ask]}})) == expected(ask, family)


@pytest.mark.parametrize(
    ("cause", "given"),
    [
        ("bits", {"kit": {"bits": (4, 5, 10, 12)}}),
        ("wet", {"room": Room(humidity_wet=68)}),
        ("dry", {"room": Room(humidity_dry=32)}),
        ("made at", {"moisture": 10.0}),
    ],
)
def test_kit_and_room_change_what_depends_on_them(plain, cause, given):
    assert moved(plain, made(**given)) == expected(cause)


def test_other_chisels_change_tenons_and_wedges_alone(plain):
    """Those at hand are 3, 6, 12, 18, 25; of a third of 24 the nearest is 6, of 25 too, and a wedge takes the widest up to a third."""
    after = moved(plain, made(kit={"chisels": (3, 8, 9, 20)}))
    assert after == expected("chisels") | expected("chisels over") | {
        ("breadboard_end", "tongue of top, from the face"),
        ("breadboard_end", "groove of cap, from the face"),
    }


def test_another_wood_changes_what_moves_and_what_is_hard(plain):
    assert moved(plain, made(wood="white oak")) == expected("wood")
