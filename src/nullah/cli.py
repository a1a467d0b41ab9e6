"""The command line: the same core without a window."""

from __future__ import annotations

import contextlib
import gc
import json
import os
import signal
import sys
import types
from collections.abc import Callable, Iterable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

import nullah
from nullah.core.values import measure

if TYPE_CHECKING:
    import argparse

DEMO = Path(__file__).parent / "demo" / "seed_library.nullah"  # as ``tools/write_demo.py`` writes it
INTERRUPTED = 130  # as a shell says it of Ctrl-C
if Path(sys.argv[0]).name == "nullah":  # until it has begun, Ctrl-C ends it without a word
    signal.signal(signal.SIGINT, signal.SIG_DFL)
COMMANDS = ("plan", "export", "breakdown", "true", "shots", "demo-project", "reckon", "kinds", "species", "new")


def start() -> None:
    """The program as it is started. Once the window is closed all is kept and every search has ended; then the process ends at
    once, since taking an interpreter down object by object takes a tenth of a second and does nobody any good."""
    signal.signal(signal.SIGINT, signal.default_int_handler)
    try:
        code = main()
    except KeyboardInterrupt:
        code = INTERRUPTED
    if sys.argv[1:] and sys.argv[1] in COMMANDS:
        sys.exit(code)
    with contextlib.suppress(OSError, AttributeError):  # they may be closed
        sys.stdout.flush()
        sys.stderr.flush()
    os._exit(code)


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command line; the exit code: 0, or 2 where the input does not serve."""
    os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "__all__")  # none is ours, and looking for them slows every start
    os.environ.setdefault(
        "OPENBLAS_NUM_THREADS", "1"
    )  # systems of four equations: a second thread only costs its start
    words = list(sys.argv[1:] if argv is None else argv)
    if words and words[0] in COMMANDS:
        if sys.stdout is None:
            return _refuse("There is nowhere to print the answer: standard output is closed.")
        return _guarded(words)
    if not any(w.startswith("-") and w not in ("--demo", "--once") for w in words) and len(words) < 3:
        files = [Path(w) for w in words if not w.startswith("-")]  # the usual ways to begin are read without a parser
        if len(files) < 2:
            return _open_window(files[0] if files else None, "--demo" in words, "--once" in words)
    from nullah.one_line import OneLineParser

    parser = OneLineParser(
        prog="nullah",
        description=nullah.__doc__,
        epilog=f"Also: nullah {{{', '.join(COMMANDS)}}} ..., each with --help.",
    )
    parser.add_argument("project", nargs="?", type=Path, help="a project file, *.nullah")
    parser.add_argument("--demo", action="store_true", help="open the demo project")
    parser.add_argument(
        "--once", action="store_true", help="close the window again once it is drawn (make bench times that)"
    )
    parser.add_argument("--version", action="version", version=f"nullah {nullah.__version__}")
    given = parser.parse_args(words)
    return _open_window(given.project, given.demo, given.once)


def _open_window(path: Path | None, with_demo: bool, once: bool) -> int:
    if not _has_display():
        return _refuse("There is no display here to open a window on; make demo opens one on a virtual screen.")
    gc.disable()  # until the window stands: nothing made while starting is garbage
    _without_plugins()
    from nullah.core.edits.piece_edits import fresh
    from nullah.formats import project_file
    from nullah.formats.trouble import FileTrouble

    try:
        project = project_file.load(DEMO) if with_demo else project_file.load(path) if path else fresh()
    except FileTrouble as trouble:
        return _refuse(str(trouble))
    from nullah.gui.app import run

    return int(run(project, None if with_demo else path, once))


def _has_display() -> bool:
    """Whether there is a display to open a window on: said by name, and there as far as can be seen without a window."""
    if os.environ.get("QT_QPA_PLATFORM"):
        return True
    wayland, shown = os.environ.get("WAYLAND_DISPLAY"), os.environ.get("DISPLAY", "")
    if wayland and (Path(os.environ.get("XDG_RUNTIME_DIR") or "/run") / wayland).exists():
        return True
    host, _, number = shown.rpartition(":")
    number = number.partition(".")[0]
    if not number.isdigit():
        return False
    return bool(host) or Path(f"/tmp/.X11-unix/X{number}").exists() or _listens(f"\0/tmp/.X11-unix/X{number}")


def _listens(name: str) -> bool:
    """Whether something listens at a local socket of that name."""
    import socket

    with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as one:
        return one.connect_ex(name) == 0


def _without_plugins() -> None:
    """No plugins for Pydantic: there are none, and to find that out it loads a good part of the standard library."""
    loader = types.ModuleType("pydantic.plugin._loader")
    loader.get_plugins = lambda: ()  # type: ignore[attr-defined]
    sys.modules.setdefault(loader.__name__, loader)


def _guarded(words: list[str]) -> int:
    """A command, with what may go wrong outside it told in one sentence: the exit code."""
    try:
        os.getcwd()
    except OSError:
        return _refuse("The folder you are in is no longer there: go to another first.")
    try:
        code = _command(words)
        sys.stdout.flush()
        return code
    except KeyboardInterrupt:
        return INTERRUPTED
    except BrokenPipeError:  # nobody reads on: nothing to say and nowhere to say it
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 2
    except UnicodeEncodeError:
        return _refuse("What is printed here cannot take every letter: set a UTF-8 locale, or PYTHONIOENCODING=utf-8.")
    except OSError as error:
        with contextlib.suppress(OSError):
            os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return _refuse(f"Could not print the answer: {(error.strerror or 'an error of the system').lower()}.")
    except MemoryError:
        return _refuse("There is not enough memory for this.")


def _command(words: list[str]) -> int:
    from nullah.formats.trouble import FileTrouble

    try:
        if words[0] == "reckon":
            return _reckon(words[1:])
        if words[0] == "breakdown":
            from nullah.breakdown_command import main as breakdown

            return breakdown(words[1:])
        if words[0] == "true":
            from nullah.true_command import main as true

            return true(words[1:])
        if words[0] == "kinds":
            return _kinds(words[1:])
        if words[0] == "species":
            return _species(words[1:])
        if words[0] == "new":
            return _new(words[1:])
        from nullah.one_line import OneLineParser

        parser = OneLineParser(prog=f"nullah {words[0]}")
        if words[0] in ("plan", "export"):
            parser.add_argument("project", type=Path)
        if words[0] == "export":
            parser.add_argument("--to", type=_named, required=True, metavar="DIR")
            parser.add_argument("--letter", action="store_true", help="paper in Letter, not A4")
        if words[0] in ("shots", "demo-project"):
            parser.add_argument("target", type=_named, metavar="DIR" if words[0] == "shots" else "FILE")
        return _do(words[0], parser.parse_args(words[1:]))
    except FileTrouble as trouble:
        return _refuse(str(trouble))


def _named(text: str) -> Path:
    """A file or a folder that has a name.

    Raises:
        FileTrouble: it has none.
    """
    from nullah.formats.trouble import FileTrouble

    if not text.strip():
        raise FileTrouble("A file or a folder is to have a name; none is given.")
    return Path(text)


def _do(command: str, given: argparse.Namespace) -> int:
    from nullah import demo
    from nullah.core.planning.plan import plan
    from nullah.formats import plan_json, project_file
    from nullah.formats.trouble import spoken
    from nullah.formats.writing import must_be_new

    if command == "plan":
        from nullah.core.planning.clashes import with_clashes

        sys.stdout.write(plan_json.text(with_clashes(project_file.load(given.project))))
    elif command == "export":
        from nullah.formats.export import OLDER, export, left_before

        before = {p.name for p in left_before(given.to, ())}
        written = export(plan(project_file.load(given.project)), given.to, letter=given.letter, project=given.project)
        for path in written:
            print(spoken(str(path)))
        if aside := len(before - {p.name for p in written}):
            print(f"{aside} files of an export before went into the folder {OLDER}.", file=sys.stderr)
    elif command == "demo-project":
        must_be_new(given.target)
        project_file.save(demo.project(), given.target)
        print(spoken(str(given.target)))
    else:
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
        from nullah.gui.app import shots

        for path in shots(given.target):
            print(spoken(str(path)))
    return 0


def _kinds(words: list[str]) -> int:
    from nullah.core.pieces.kinds import KINDS

    return _listed("kinds", "the kinds of piece and what each asks", words, KINDS.values())


def _species(words: list[str]) -> int:
    from nullah.core.wood.species import ALL

    return _listed("species", "the species that are known, with the sources of every figure", words, ALL.values())


def _listed(command: str, what: str, words: list[str], things: Iterable[Any]) -> int:
    """Print what each of some things is, as JSON; the exit code."""
    if words in (["--help"], ["-h"]):
        print(f"nullah {command} prints {what}, as JSON.")
        return 0
    if words:
        return _refuse(f"Write nullah {command}, with nothing after it.")
    print(json.dumps([thing.described() for thing in things], indent=1, ensure_ascii=False))
    return 0


def _new(words: list[str]) -> int:
    from nullah.core.pieces.kind import BadAnswer
    from nullah.formats.trouble import spoken
    from nullah.new_command import HOW, new

    if words in (["--help"], ["-h"]):
        print(f"{HOW}; nullah kinds lists them. Lengths without a unit are mm, slopes 1:7 or 7.")
        return 0
    try:
        print(spoken(str(new(words))))
    except BadAnswer as error:
        return _refuse(str(error))
    return 0


def _reckon(words: list[str]) -> int:
    from nullah.core.calculators import reckon
    from nullah.core.pieces.kind import BadAnswer
    from nullah.formats import columns_csv, heights_csv
    from nullah.formats.trouble import FileTrouble
    from nullah.new_command import key_values

    if words == ["--list"]:
        print(json.dumps(reckon.described(), indent=1))
        return 0
    if not words or words[0].startswith("-"):
        return _refuse(f"Write nullah reckon NAME key=value ...; NAME is one of {', '.join(reckon.CALCULATORS)}.")

    def figures(columns: tuple[str, ...]) -> Callable[[str], Any]:
        return lambda name: columns_csv.read(Path(name), columns)

    files = {kind: figures(columns) for kind, columns in reckon.COLUMNS.items()}
    files["heights"] = lambda name: heights_csv.read(Path(name))
    try:
        given = key_values(words[1:])
        answers = reckon.reckon(words[0], given, files)
    except (BadAnswer, reckon.BadReckoning, FileTrouble) as error:
        return _refuse(str(error))
    print(json.dumps(measure.plain(answers), allow_nan=False))
    return 0


def _refuse(words: str) -> int:
    if sys.stderr is not None:
        print(" ".join(measure.told(words).split()), file=sys.stderr)
    return 2


if __name__ == "__main__":
    raise SystemExit(main())
