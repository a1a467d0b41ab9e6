"""The maker's own hand in a design: parts and joints added, dropped, and figures written in place of what the kind gives."""

from __future__ import annotations

from pydantic import ValidationError

from nullah.core.document.pieces import AddFrame, AddJoint, AddPart, BetweenMarks, Drop, Edit, Put, put_of_part
from nullah.core.document.refusals import sentence
from nullah.core.joints.families import FAMILIES
from nullah.core.pieces.look import DIMENSIONS, frame_axes
from nullah.core.values.ask import BadAnswer
from nullah.core.values.design import Along, Design, Frame, JointDesign, PartDesign, between, mm
from nullah.core.values.frozen import frozen, replace
from nullah.core.wood.species import UnknownSpecies, species

TOLD = ("label", "species", "role")  # what may be put of a part beside its sizes


@frozen
class ByHand:
    """A design after the maker's edits: the sizes that were put, by (owner, what), and one sentence for everything that could not be
    followed, each with the thing it misses."""

    design: Design
    put: dict[tuple[str, str], float]
    lost: tuple[tuple[str, str], ...] = ()  # the thing missed, the sentence


def apply(edits: tuple[Edit, ...], design: Design) -> ByHand:
    """The design with edits followed in order; what wants something that is gone is set aside and told, never dropped."""
    parts = {p.id: p for p in design.parts}
    joints = {j.id: j for j in design.joints}
    frames = {f.id: f for f in design.frames}
    dropped: set[str] = set()
    put: dict[tuple[str, str], float] = {}
    lost: list[tuple[str, str]] = []
    for edit in edits:
        if isinstance(edit, AddFrame):
            frames.setdefault(edit.id, _frame(edit))
        elif isinstance(edit, AddPart):
            if edit.id in parts or edit.id in joints:
                lost.append((edit.id, f"{edit.label} was added under the name {edit.id}, which the piece has already."))
                continue
            if edit.frame and edit.frame not in frames:
                lost.append((edit.id, f"{edit.label} stands in {edit.frame}, which is no frame of the piece now."))
                continue
            parts[edit.id], gone = _part(edit, design)
            lost += [(edit.id, words) for words in gone]
        elif isinstance(edit, AddJoint):
            joints[edit.id] = JointDesign(
                edit.id, edit.family, edit.first, edit.second, edit.way, dict(edit.asked), edit.set
            )
        elif isinstance(edit, Drop):
            if edit.id not in parts and edit.id not in joints:
                lost.append((edit.id, f"{edit.id} was taken away by hand; the piece has none now."))
            dropped.add(edit.id)
            parts.pop(edit.id, None)
            joints.pop(edit.id, None)
        else:
            lost += _put(edit, parts, joints, put)
    labels = {p.id: p.label for p in design.parts}
    aside = _set_aside(parts, set(labels))
    for root, names in aside.items():
        dropped.update(names)
        words = ", ".join(labels.get(n, n) for n in names)
        lost.append((root, f"The {labels[root]} is gone: {words} took a size from it, and {_is(names)} set aside."))
    kept = []
    for joint in joints.values():
        why = _not_there(joint, parts)
        if why is None:
            kept.append(joint)
        elif not dropped.intersection((joint.first, joint.second)):
            lost.append((joint.id, why))
    after = replace(design, frames=tuple(frames.values()), parts=tuple(parts.values()), joints=tuple(kept))
    return ByHand(after, put, tuple(lost))


def _is(names: list[str]) -> str:
    return "is" if len(names) == 1 else "are"


def _set_aside(parts: dict[str, PartDesign], known: set[str]) -> dict[str, list[str]]:
    """Parts taken out because a size of theirs comes from one that is gone, by what is gone; until nothing changes."""
    found: dict[str, list[str]] = {}
    roots: dict[str, str] = {}
    changed = True
    while changed:
        changed = False
        for part in tuple(parts.values()):
            missed = next((o for o in _sizes_from(part) if o in known and o not in parts), None)
            if missed is not None:
                root = roots[part.id] = roots.get(missed, missed)
                found.setdefault(root, []).append(part.id)
                del parts[part.id]
                changed = True
    return found


def _sizes_from(part: PartDesign) -> list[str]:
    """What a part's own sizes come from, besides the rods it lies on."""
    terms = [t for lies in (part.along, part.across, part.through) for t in lies.size]
    return [ref.owner for t in terms for ref in ((t.of,) if t.of else ()) + t.most]


def _frame(edit: AddFrame) -> Frame:
    x, y, z = (mm("from the corner", v) for v in edit.at)
    return Frame(edit.id, (x, y, z), edit.axis, edit.degrees)


def _part(edit: AddPart, design: Design) -> tuple[PartDesign, list[str]]:
    """A part that stands where it was put, its corner least in x, y and z, or between marks; and what of those is gone, in words."""
    sizes = (edit.length, edit.width, edit.thickness)
    bare = PartDesign(
        edit.id, edit.label, edit.face, edit.upper, Along(), Along(), Along(), edit.frame, "", edit.role, edit.species
    )
    marks = (edit.along, edit.across, edit.through)
    lies, gone = [], []
    for name, size, axis, span in zip(DIMENSIONS, sizes, frame_axes(bare), marks, strict=True):
        if span is not None and _is_there(span, "xyz"[axis], edit.frame, design):
            lies.append(between(span.rod, span.start, span.end))
            continue
        lies.append(Along(size=mm(name, size), off=mm("from the corner", edit.at[axis])))
        if span is not None:
            gone.append(
                f"The {name} of {edit.label} lay between {span.start} and {span.end}, which the piece has not now along there: "
                f"it stays as it was."
            )
    return replace(bare, along=lies[0], across=lies[1], through=lies[2]), gone


def _is_there(span: BetweenMarks, axis: str, frame: str, design: Design) -> bool:
    """Whether there are two such marks, one after the other, on a story stick that way."""
    rod = next((r for r in design.rods if r.id == span.rod), None)
    names = [m.id for m in rod.marks] if rod is not None and rod.axis == axis and rod.frame == frame else []
    return span.start in names and span.end in names[names.index(span.start) + 1 :]


def _put(
    edit: Put, parts: dict[str, PartDesign], joints: dict[str, JointDesign], put: dict[tuple[str, str], float]
) -> list[tuple[str, str]]:
    part, joint = parts.get(edit.owner), joints.get(edit.owner)
    words = f"{edit.what} of {edit.owner} was written by hand"
    if part is None and joint is None:
        return [(edit.owner, f"The {words}; there is no such part or joint now.")]
    if part is not None and edit.what in (*TOLD, *DIMENSIONS):
        try:
            value = put_of_part(edit.what, edit.value)
            if edit.what == "species":
                species(str(value))
        except (ValidationError, UnknownSpecies) as error:
            why = str(error) if isinstance(error, UnknownSpecies) else sentence(error)
            return [(edit.owner, f"The {words}, and does not serve: {why}")]
        if isinstance(value, float):
            put[part.id, edit.what] = value
        else:
            parts[part.id] = replace(part, **{edit.what: value})
    elif joint is not None and joint.family in FAMILIES and edit.what in {a.name for a in FAMILIES[joint.family].asks}:
        ask = next(a for a in FAMILIES[joint.family].asks if a.name == edit.what)
        try:
            joints[joint.id] = replace(joint, asked={**joint.asked, edit.what: ask.held(edit.value)})
        except BadAnswer as error:
            return [(edit.owner, f"The {words}, and does not serve: {error}")]
    else:
        return [(edit.owner, f"The {words}; it has no such figure.")]
    return []


def _not_there(joint: JointDesign, parts: dict[str, PartDesign]) -> str | None:
    """Why a joint cannot be: nothing where its family and parts are there."""
    if joint.family not in FAMILIES:
        return f"There is no family of joints called {joint.family}; {joint.id} is set aside."
    for part in (joint.first, joint.second):
        if part and part not in parts:
            return f"{joint.id} joins {part}, which is no part of the piece now."
    family = FAMILIES[joint.family]
    if bool(joint.second) != bool(family.home) or joint.first == joint.second:
        return f"{joint.id} is of {'two parts' if family.home else 'one part'}; it is set aside."
    asks = {a.name: a for a in family.asks}
    for name, value in joint.asked.items():
        try:
            asks[name].held(value)
        except KeyError:
            return f"{joint.id} is asked for {name[:40]}, which its family does not ask; it is set aside."
        except BadAnswer as error:
            return f"{joint.id} is set aside: {error}"
    return None
