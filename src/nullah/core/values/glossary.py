"""The trade's words, each explained in a sentence or two, so that a term can be told where it stands."""

from __future__ import annotations

import re

WORDS: dict[str, str] = {
    "arris": "The sharp line where two sides of a board meet; eased at last, or planed off to a chamfer.",
    "baseline": "The line a joint is sawn and chopped down to, gauged to the thickness of the mating board. Also called the shoulder.",
    "batten": "A bar across a wide board that keeps it flat, screwed in slots so that the board still moves.",
    "bevel": "A sliding bevel, set to the slope of tails and pins: 1 : 7 is one across to seven along.",
    "bow": "A board curved along its length. A straightedge laid along shows the hollow or the hump in the middle.",
    "breadboard": "A cross piece at the end of a wide panel, on tenons: fast in the middle, free at the sides to let the panel move.",
    "bridle joint": "A tenon as wide as its rail in a slot that is open at the end: a mortise without a wall.",
    "caliper": "Measures thickness. What it says of the wood replaces what was planned.",
    "call": "A judgement the program must not make alone: the options stand with what each would cost. Taken ones can be taken back.",
    "chamfer": "An arris planed off at a slope, alike on both sides. Pencilled, never gauged: a scratch would stay.",
    "check": "A crack along the grain at the end of a board. It runs further than it shows: cut back until clean.",
    "coping saw": "A fine frame saw that turns in the cut; it takes the waste out between the tails before the chisel.",
    "crosscut": "A saw cut across the grain: short, and done early so that warped boards come apart into flatter pieces.",
    "cup": "A board curved across its width. Flatsawn boards hollow on the bark side as they dry.",
    "dado": "A housing across the grain that takes the end of a divider or shelf, as wide as its mate measures.",
    "diagonals": "Corner to corner both ways: equal, and the frame is square. Push the long one.",
    "dividers": "Two points set to a step and walked along a line. In a drawing of a box: the boards that part its bays.",
    "drawbore": "Holes for a peg bored out of line by a hair, so that the peg draws the shoulder tight and holds without glue.",
    "face edge": "The edge made straight and square to the face side; width is gauged from it. Marked with two short strokes here.",
    "face side": "The first side made flat; thickness is gauged from it. Marked with a ripple that runs to the face edge.",
    "fingerprint": "What a layout was made from. When boards or parts change, the layout is held up against them anew.",
    "flatsawn": "Rings lie nearly along the face (0 to 30 degrees). It moves most across its width, and cups.",
    "gauge": "A marking gauge scratches a line at a set distance from the edge it runs along.",
    "groove": "A slot with the grain that holds a panel. It is kept clear of the pins, or it shows at the corner.",
    "half pin": "The pin at each edge of a dovetailed board, about half the stock's thickness where it is narrow.",
    "half-blind": "Of a dovetail: the tails stop at a lap, and the front shows nothing of them, as on a drawer.",
    "haunch": "The short part of a tenon beside the long one: it keeps the rail from twisting and fills the groove's end.",
    "heart": "The side of a board that looked to the middle of the tree. Drying hollows the other, the bark side.",
    "humidity": "How much water the air holds of what it could, in percent. Wood settles by it, month by month, with a lag.",
    "jack plane": "The middling plane that takes most of the wood off, across or at a slant to the grain.",
    "jointer": "The long plane that makes faces flat and edges straight.",
    "kerf": "What the saw turns to dust. Keep it in the waste; where two parts share a line, each loses half.",
    "lap": "What is left of a front before the tails of a half-blind dovetail, a fifth to a third of its thickness.",
    "lit": "Shown brighter in the drawings: the part or setting you have in mind.",
    "loose knot": "A dead knot with a dark ring; it may fall out when planed over. It spoils a joint and a show face.",
    "mitre": "Two parts cut at half the angle they meet at, so that no end grain shows. Glue holds little there: a spline or keys do.",
    "moisture": "Water in the wood, in percent of its dry weight. Wood swells and shrinks across the grain as it changes.",
    "mortise": "The hole a tenon goes into, as wide as the chisel that chops it.",
    "offcut": "What is left and worth keeping. Long ones first: they are what a part is cut again from.",
    "pins": "The narrow fingers between the tails, on the other board. Traced from the tails, so they fit them.",
    "pith": "The middle of the tree. A board that holds it splits there as it dries; rings run round it.",
    "plough": "A plane with a fence that cuts grooves along the grain; its depth stop limits how deep.",
    "proud": "Standing a little beyond the surface, to be planed flush afterwards.",
    "quartersawn": "Rings stand up to the face (60 to 90 degrees). It moves least, and stays flattest.",
    "rabbet": "A step along an edge or end, as wide as the mating board is thick.",
    "reference": "A piece of the same wood that has always lived in the room: what a meter reads on it is where boards there settle.",
    "resin": "A pocket or streak of pitch: it bleeds through a finish, and clogs a plane.",
    "rift": "Rings at a slant to the face (30 to 60 degrees): between flatsawn and quartersawn.",
    "rip": "A saw cut along the grain. Long ones are real work; they part cupped boards into flatter ones.",
    "router plane": "A plane with an iron that hangs below its sole; it cuts floors of dadoes to one depth.",
    "run-out": "Grain that leaves the face at a slant. Weak in anything that bears load; may be figure to enjoy in a panel.",
    "sapwood": "The outer, paler wood. Keep, hide or cut it off, once a clean pass has shown it.",
    "shake": "A split along a ring, from before the tree was felled: what lies on either side of it holds by nothing.",
    "shaving": "What one pass of a plane takes off. Thickness to come off, in shavings, says how long it takes.",
    "slab": "The thickest flat board that lies inside a rough one: no plane can leave more.",
    "sliding dovetail": "A tail over a whole end, slid into a socket from the side: it cannot be pulled off, and wood still moves.",
    "slope": "How much the tails flare: 1 : 6 in soft wood to 1 : 8 in hard. Shallower slips, steeper has weak short grain.",
    "socket": "What is cut out between two tails, where a pin goes: wider at the baseline than at its mouth.",
    "sound knot": "A live, tight knot. It may stay where it is not seen and no joint is cut.",
    "spline": "A thin strip in grooves of two parts, its grain across the joint.",
    "split": "A crack right through the board. It runs on when the wood dries or is worked.",
    "story stick": "A stick with every mark of one direction on it at full size: carried to the work, it cannot be misread.",
    "straightedge": "Proved by turning it over on its own line. It shows cup across, bow along, and both corner to corner.",
    "tails": "The fan-shaped fingers of a dovetail. Sawn first here, then traced onto the mate for the pins.",
    "tenon": "The tongue at the end of a rail, about a third of its thickness: really as thick as the mortise chisel is wide.",
    "true": "Flat, straight and square, as measured, not as planned.",
    "tusk": "A wedge through a tenon that has come through: it draws the joint up, and is knocked out to take it apart.",
    "wane": "A corner of the board where bark or the round of the tree is left. Nothing can be measured from it.",
    "winding sticks": "Two straight sticks laid across a board; sighted over, they show whether its ends lie in one plane.",
    "worm": "Holes that a beetle's young left. Look for fresh dust: then it lives, and the board stays out of the shop.",
}
_ALSO = {
    "dadoes": "dado",
    "kerfs": "kerf",
    "knot": "sound knot",
    "tail": "tails",
    "pin": "pins",
    "offcuts": "offcut",
    "mortises": "mortise",
    "tenons": "tenon",
}
_FORMS = re.compile(r"\b(" + "|".join(sorted([*map(re.escape, WORDS), *_ALSO], key=len, reverse=True)) + r")\b", re.I)


def terms_in(text: str) -> tuple[str, ...]:
    """The terms a text uses, in the order it uses them, each once."""
    found = (_ALSO.get(m[0].lower(), m[0].lower()) for m in _FORMS.finditer(text))
    return tuple(dict.fromkeys(found))


def explained(text: str) -> str:
    """What the first few terms in a text mean, one line each; "" where it uses none."""
    return "\n".join(f"{term}: {WORDS[term]}" for term in terms_in(text)[:3])
