"""Every plan replayed at a bench of the test's own: wood that is sawn, settled, planed, marked, joined and glued by what the steps say,
in any order that their waits allow. What each kind of step needs is a fact of the trade (common practice, no source)."""

import random

import pytest
from random_projects import outline, several
from shapely.geometry import LineString

from nullah import demo
from nullah.core.edits import edit, step_edits
from nullah.core.planning.plan import plan

PROJECTS = several(200, 2000)
PARTS_OF_JOINTS = {"bottom groove": "bottom", "lid groove": "lid"}


class Bench:
    """What lies on the bench; each step is refused where its wood, its lines or its way in is not there."""

    def __init__(self, project, now):
        self.project, self.now = project, now
        self.tree = {b.board: b.root for b in project.layout.boards}
        self.pieces = {b: [root] for b, root in self.tree.items()}
        self.boards = {b.id: b for b in project.boards}
        self.waiting = {
            b.id
            for b in project.boards
            if (c := now.call(f"damp {b.id}")) is not None and (c.taken or c.recommended) == "wait"
        }
        self.flat, self.settled, self.true, self.thick = set(), set(), set(), set()
        self.cut, self.joints, self.glued, self.dry = set(), set(), {}, set()
        self.fit, self.parts = set(), {p.id: p for p in now.piece.parts}
        self.sides = {p for p in self.parts if p in "ABCD"}

    def need(self, what, step):
        assert what, f"{step.id}: {step.words}"

    def do(self, step):
        kind, _, name = step.id.partition(" ")
        getattr(self, f"do_{kind}")(step, name)

    # ---- wood

    def do_wood(self, step, name):
        pass

    def do_plane(self, step, board):
        self.need(self.pieces[board] == [self.tree[board]], step)
        self.need(board not in self.waiting or board in self.settled, step)
        self.flat.add(board)

    def do_damp(self, step, board):
        whole = self.pieces.get(board, []) == [self.tree.get(board)]
        planed = f"plane {board}" in {s.id for s in self.now.bench.steps}
        self.need(board not in self.tree or whole == planed or self.tree[board].use != "cut", step)
        self.need(all(n.use != "cut" or self.in_air(board, n) for n in self.pieces.get(board, [])) or planed, step)
        self.settled.add(board)

    def in_air(self, board, node):
        """Whether a cut meets no wood."""
        b, at = self.boards[board], node.at + node.kerf / 2
        wood = outline(b)
        ends = (
            [(at, node.y), (at, node.y + node.width)]
            if node.axis == "across"
            else [(node.x, at), (node.x + node.length, at)]
        )
        return wood.intersection(LineString(ends)).length <= 0.5

    def do_saw(self, step, name):
        board = step.saws
        self.open_air(board)
        way, at, start = name.removeprefix(f"{board} ").split()
        if f"plane {board}" in {s.id for s in self.now.bench.steps}:
            self.need(board in self.flat, step)
        self.open_air(board)
        axis = "across" if way == "x" else "along"
        mine = [
            n
            for n in self.pieces[board]
            if n.use == "cut"
            and n.axis == axis
            and abs(n.at - float(at)) < 0.051
            and abs((n.y if axis == "across" else n.x) - float(start)) < 0.051
        ]
        self.need(len(mine) == 1, step)  # the piece that is cut is in hand, and is cut right across
        self.part(board, mine[0])
        self.open_air(board)

    def part(self, board, node):
        self.pieces[board].remove(node)
        self.pieces[board] += node.children

    def open_air(self, board):
        """Cuts through no wood part nothing: what lies beyond them is in hand with the piece before."""
        while True:
            found = next((n for n in self.pieces[board] if n.use == "cut" and self.in_air(board, n)), None)
            if found is None:
                return
            self.part(board, found)

    def on_board(self, blank):
        for board, pieces in self.pieces.items():
            self.open_air(board)
            if any(n.use == "part" and n.part == blank for n in pieces):
                return board
        return None

    def do_true(self, step, blank):
        board = self.on_board(blank)
        self.need(board is not None, step)  # it is free of its board
        self.need(board not in self.waiting or board in self.settled, step)
        self.true.add(blank)
        if blank in self.parts:
            self.thick.add(blank)

    def do_resaw(self, step, blank):
        self.need(blank in self.true, step)
        self.true |= {f"leaves of {blank}"}
        if set(blank.split("+")) <= set(self.parts):
            self.thick |= set(blank.split("+"))

    def do_glue(self, step, name):
        part = name.removeprefix("up ")
        mine = self.now.breakdown.rough.of(part)
        for blank in mine:
            self.need(f"leaves of {blank}" in self.true if "+" in blank else blank in self.true, step)
        assert part not in self.thick  # it is glued over-thick, and levelled
        self.glued[part] = step.id

    def do_dry(self, step, part):
        self.need(part in self.glued, step)
        self.dry.add(part)

    def do_level(self, step, part):
        self.need(part in self.dry, step)
        self.thick.add(part)

    # ---- parts and joints

    def do_cut(self, step, part):
        self.need(part in self.thick, step)
        if part not in self.sides:
            self.need(self.corners() <= self.joints, step)
            for joint in ("bottom groove", "lid groove"):
                if PARTS_OF_JOINTS[joint] == part and self.has(joint):
                    self.need(joint in self.joints, step)
            if self.parts[part].group == "dividers":
                self.need("dadoes" in self.joints, step)
        self.cut.add(part)

    def corners(self):
        return {j.id for j in self.now.joints.joints if j.id.startswith("corner")}

    def has(self, joint):
        return any(j.id == joint for j in self.now.joints.joints)

    def do_joint(self, step, name):
        if name.startswith("corner"):
            self.need(set(name.removeprefix("corner ").split("-")) <= self.cut, step)
        elif name == "lid rabbet":
            self.need("lid" in self.cut, step)  # its lines are gauged from edges as fitted
        else:
            self.need(self.corners() <= self.joints, step)
            mates = (
                [PARTS_OF_JOINTS[name]]
                if name in PARTS_OF_JOINTS
                else [p for p, v in self.parts.items() if v.group == "dividers"]
            )
            self.need(set(mates) <= self.thick, step)  # its width is knifed from them
        self.joints.add(name)

    # ---- together

    def do_together(self, step, name):
        self.need(set(self.parts) <= self.cut, step)
        self.need({j.id for j in self.now.joints.joints} <= self.joints, step)
        stuck = self.glued.get("case")
        if step.title == "Let the glue dry":
            self.need(stuck is not None, step)
            self.glued["case"] = None
        elif step.title == "Glue":
            self.need(stuck is None, step)  # what was glued before is dry
            self.close(step)
            self.glued["case"] = step.id
        elif step.title == "Dry fit":
            assert not self.fit  # nothing is tried dry once it is glued

    def close(self, step):
        words = step.words
        if "dividers" in words:
            face = next(j for j in self.now.joints.joints if j.id == "dadoes").faces[0].drawing
            top = self.parts["A"].width
            dadoes = [i for i in face.items if getattr(i, "tag", "") == "dado"]
            self.need(dadoes and all(max(y for _, y in d.points) == pytest.approx(top) for d in dadoes), step)
            self.need("from above" in words, step)
            return
        # tails slide onto pins along the thickness of their board: a long side closes alone, and the ends have the bottom by then
        moved = [
            p for p in "AC" if f"glue {p}" in words or (p == "C" and "glue it onto" in words) or "glue A and C" in words
        ]
        self.need(moved, step)
        self.need("the bottom" in words.lower(), step)
        for end in "BD":
            assert f"glue {end}" not in words
        self.fit |= set(moved)

    def do_finish(self, step, name):
        self.need(self.fit == {"A", "C"}, step)
        self.need(self.glued.get("case") is None, step)


def any_order(steps, chance):
    """Some order that the waits allow."""
    done, left = set(), list(steps)
    while left:
        ready = [s for s in left if all(w in done for w in s.waits)]
        assert ready, f"nothing can be done: {[s.id for s in left][:5]}"
        one = chance.choice(ready)
        left.remove(one)
        done.add(one.id)
        yield one


@pytest.mark.parametrize("order", ["as listed", "as allowed"])
def test_every_step_has_its_wood_its_lines_and_its_access(order):
    kinds = set()
    for n, project in enumerate(PROJECTS):
        now = plan(project)
        steps = now.bench.steps
        assert len({s.id for s in steps}) == len(steps)
        short = {s.id for s in steps if s.id == "wood"}
        for i, step in enumerate(steps):
            assert set(step.waits) <= {s.id for s in steps[:i]}, step.id
        if short:  # parts without a place have no wood to replay with: what hangs on them waits for it
            without = {w for s in steps for w in s.waits if w == "wood"}
            assert without == {"wood"}
            continue
        bench = Bench(project, now)
        for step in any_order(steps, random.Random(n)) if order == "as allowed" else steps:
            bench.do(step)
            kinds.add(step.id.split()[0])
    assert kinds >= {"saw", "true", "damp", "cut", "joint", "together", "finish", "glue", "dry", "level"}


def test_a_board_planed_whole_is_in_the_order_of_the_steps():
    project = demo.box()
    call = plan(project).call("saw first board 1")
    taken = edit.take(project, call, "plane")
    now = plan(taken)
    ids = [s.id for s in now.bench.steps]
    cuts = [s for s in now.bench.steps if s.saws == "board 1"]
    assert ids.index("plane board 1") < min(ids.index(s.id) for s in cuts)
    assert "plane board 1" in cuts[0].waits
    Bench(taken, now)
    for step in any_order(now.bench.steps, random.Random(3)):
        assert step


def test_done_on_a_saw_cut_cuts_and_back():
    """Cut by cut: pieces and offcuts follow as with the whole board at once; taken back, all is as it was."""
    first = demo.box()
    board = plan(first).breakdown.place("A")[0]
    at_once = step_edits.sawn(first, plan(first), board)
    project, steps = first, [first]
    while True:
        now = plan(project)
        step = next((s for s in now.bench.steps if s.saws == board and not s.done), None)
        if step is None:
            break
        project = step_edits.step_done(project, now, step.id, sure=True)
        steps.append(project)
        free = plan(project).breakdown.freed
        assert not plan(project).breakdown.problems
        assert not plan(project).breakdown.changed
        assert not free & {b.id for b in plan(project).breakdown.request.blanks}
    assert {b.id: b.model_copy(update={"name": "x"}) for b in project.boards} == {
        b.id: b.model_copy(update={"name": "x"}) for b in at_once.boards
    }
    assert project.layout == at_once.layout
    assert plan(project).breakdown.freed == plan(at_once).breakdown.freed
    assert project.cut == ()
    for before in reversed(steps[:-1]):
        now = plan(project)
        last = next(s for s in reversed(now.bench.steps) if s.saws == board and s.done)
        project = step_edits.step_undone(project, now, last.id)
        assert project.boards == before.boards
        assert project.done == before.done
        assert project.layout == before.layout
    early = next(s for s in plan(at_once).bench.steps if s.saws == board)
    with pytest.raises(edit.BadEdit, match="take that back first"):
        step_edits.step_undone(at_once, plan(at_once), early.id)


def test_what_is_begun_is_laid_out_anew_only_where_it_is_not_cut():
    from nullah.core.stations import breakdown

    project = demo.box()
    board = plan(project).breakdown.place("A")[0]
    for _ in range(3):
        now = plan(project)
        step = next(s for s in now.bench.steps if s.saws == board and not s.done)
        project = step_edits.step_done(project, now, step.id, sure=True)
    now = plan(project)
    made = now.breakdown.progress[board].made
    pieces = {(n.x, n.y, n.length, n.width) for n in now.breakdown.progress[board].pieces}
    for one in breakdown.offers(now.breakdown.request):
        after = project.model_copy(update={"layout": breakdown.accept(one, now.breakdown.request.fingerprint)})
        then = plan(after).breakdown
        if board in then.progress:
            assert then.progress[board].made == made
            assert {(n.x, n.y, n.length, n.width) for n in then.progress[board].pieces} == pieces
        assert then.problems == ()
