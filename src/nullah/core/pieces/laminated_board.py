"""A laminated board: staves glued edge to edge, of one wood or of two by turns; from a cutting board to a bench top."""

from __future__ import annotations

from nullah.core.marking.plan import Check
from nullah.core.pieces.kind import Answers, Grows, Kind, Proportion, Use
from nullah.core.pieces.sizes import Sizes
from nullah.core.values.ask import Ask
from nullah.core.values.design import Design, JointDesign, Mark, NoPiece, PartDesign, Rod, between, from_mark, mm
from nullah.core.values.measure import at_least, marked
from nullah.core.wood.species import NAMES, own

NARROWEST = 12.0  # mm: a narrower stave is hard to shoot
WIDEST = 130.0  # mm (5", common practice, no source)

ASKS = (
    Ask("length", "length of the board", "length", 400.0, 80.0, 4000.0),
    Ask("width", "width of the board", "length", 240.0, 40.0, 1500.0),
    Ask("thickness", "thickness of the board", "length", 25.0, 10.0, 150.0),
    Ask("staves", "number of staves", "whole", 6, 2, 40),
    Ask("wood", "wood of the staves", "choice", "sugar maple", options=NAMES, also=own),
    Ask("other", "wood of every other stave", "choice", "black walnut", options=NAMES, also=own),
)


def design(asked: Answers) -> Design:
    """Staves side by side from front to back, each as wide as what is left of the width comes to."""
    count = int(asked["staves"])
    each = asked["width"] / count
    if each < NARROWEST:
        raise NoPiece(
            f"{count} staves in {marked(asked['width'])} are {marked(each)} wide; {marked(NARROWEST)} is the least."
        )
    marks = [Mark("front"), *(Mark(f"edge-{n}", gives=1.0, label=f"stave {n}") for n in range(1, count + 1))]
    names = [m.id for m in marks]
    rods = (
        Rod("length", "Length", "x", (Mark("left"), Mark("right", mm("length", asked["length"], "length")))),
        Rod("width", "Width", "y", tuple(marks), mm("width", asked["width"], "width")),
        Rod(
            "thickness",
            "Thickness",
            "z",
            (Mark("under"), Mark("upper", mm("thickness", asked["thickness"], "thickness"))),
        ),
    )
    parts = tuple(
        PartDesign(
            f"stave-{n}",
            f"stave {n}",
            "up",
            "back",
            between("length", "left", "right"),
            between("width", names[n - 1], names[n]),
            from_mark("thickness", "under", mm("thickness", asked["thickness"], "thickness")),
            group="staves",
            species=asked["wood"] if n % 2 else asked["other"],
            show_face="upper",
        )
        for n in range(1, count + 1)
    )
    joints = tuple(
        JointDesign(f"edge-{n}", "edge_joint", f"stave-{n + 1}", f"stave-{n}", "front", set="edges")
        for n in range(1, count)
    )
    return Design(rods, parts, joints)


def checks(asked: Answers, sizes: Sizes, _: Grows) -> tuple[Check, ...]:
    """Whether any stave is so wide that it cups by itself."""
    wide = {p.label: sizes.size(p.id)[1] for p in sizes.design.parts if p.group == "staves"}
    if not wide:
        return ()
    widest = max(wide, key=wide.__getitem__)
    return (
        Check(
            at_least(WIDEST, wide[widest]),
            f"{widest} is {marked(wide[widest])} wide; over {marked(WIDEST)} a stave cups by itself: more of them lie flatter",
        ),
    )


def use(asked: Answers) -> Use:
    """Before it is used."""
    return Use(
        "Put it to use",
        "Oil or leave both faces alike, or it cups; feet or battens let air under it. Trim the ends square now that it is one board.",
        ("For food: a finish and a wood that are fit for it. Some woods make some people react.",),
    )


LAMINATED_BOARD = Kind(
    "laminated_board",
    "A board of staves glued edge to edge, of one wood or of two by turns: a cutting board, a panel, a bench top.",
    ASKS,
    "A board {length} long, {width} wide and {thickness} thick, of {staves} staves: {wood}, every other one {other}.",
    design,
    checks,
    use=use,
    teaches="Straight edges jointed in pairs, rings that alternate, and how many clamps are enough.",
    proportions=(Proportion("width", "length", "The board's width to its length"),),
)
