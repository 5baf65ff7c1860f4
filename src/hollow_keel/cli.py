"""The command line: the same results as the window."""

from __future__ import annotations

import argparse
import os
import shlex
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from . import __version__
from .app.exports import EXPORTS, export_named, write_export
from .app.outputs import refuse_over
from .app.processes.launch import window_starting
from .core.errors import ImpossiblePlan, InputError
from .core.findings import in_words
from .demo import NAMES as DEMOS
from .files.store.atomic import write_atomic

if TYPE_CHECKING:
    from typing import Any

    from .core.job import Job
    from .core.results import Results
    from .core.stage import Stage

# What reads jobs and computes is imported where it is used: the computing process is to be started before it loads.

DONE, BAD_INPUT, IMPOSSIBLE, PARTLY = 0, 2, 3, 4
COMMANDS = ("plan", "export", "demo")


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; returns its exit code."""
    given = list(sys.argv[1:] if arguments is None else arguments)
    try:
        if given and given[0] in (*COMMANDS, "-h", "--help", "--version"):
            options = _parser().parse_args(given)
            return int(options.run(options))
        if given and given[0].startswith("-"):
            _parser().parse_args(given)
        if len(given) > 1:
            raise InputError("only one file can be opened", value=" ".join(given), mend="Give one job or offsets file.")
        with window_starting() as worker:  # it loads its libraries while we load ours
            from .ui.window.start import run_window

            return run_window(worker, Path(given[0]) if given else None)
    except InputError as error:
        print(in_words(str(error)), file=sys.stderr)
        return BAD_INPUT
    except ImpossiblePlan as error:
        print(in_words(str(error)), file=sys.stderr)
        return IMPOSSIBLE
    except BrokenPipeError:
        return DONE


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="hollow-keel", description="Plans strip-planked and cold-molded hulls. With a file or nothing it opens the window."
    )
    parser.add_argument("--version", action="version", version=f"Hollow Keel {__version__}")
    commands = parser.add_subparsers(required=True)
    plan = commands.add_parser("plan", help="every stage's results as JSON")
    plan.add_argument("input", type=Path, help="a .hkeel job, a table of offsets (CSV, text, spreadsheet), a mesh or a drawing")
    plan.add_argument("--out", type=Path, help="the file to write (otherwise standard output)")
    plan.add_argument("--force", action="store_true", help="write over a job that is kept there")
    _add_set(plan)
    plan.set_defaults(run=_plan)
    export = commands.add_parser("export", help="write patterns, sheets and tables")
    export.add_argument("input", type=Path, help="a .hkeel job, a table of offsets (CSV, text, spreadsheet), a mesh or a drawing")
    export.add_argument("--kind", required=True, help=", ".join(e.kind for e in EXPORTS))
    export.add_argument("--out", type=Path, required=True, help="the file to write")
    export.add_argument("--force", action="store_true", help="write over a job that is kept there")
    _add_set(export)
    export.set_defaults(run=_export)
    demo = commands.add_parser("demo", help="the window with a demo job")
    demo.add_argument("name", nargs="?", default="linnet", help=f"one of {', '.join(DEMOS)}")
    demo.add_argument("--pictures", type=Path, help="instead: save a PNG of each page, the patterns and the plan there, and end")
    demo.set_defaults(run=_demo)
    return parser


def _add_set(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--set", action="append", default=[], metavar="KEY=VALUE", help="a setting, such as skin=6mm or strip.width=3/4in"
    )
    parser.add_argument(
        "--read",
        action="append",
        default=[],
        metavar="KEY=VALUE",
        help="what a table, mesh or drawing leaves open, such as unit=mm or spacing=500mm",
    )


def _job(options: argparse.Namespace, needs: Sequence[Stage[Any]]) -> Job:
    """The job that was named, as it is set, for some stages."""
    from .app.open_any import AsRead, is_job_file, open_job
    from .app.overrides import apply_override
    from .core.setup.stages import SETUP
    from .core.setup_that_suits import suited
    from .core.stages import needed_for

    how: dict[str, str] = {}
    for answer in options.read:
        key, equals, value = answer.partition("=")
        if not equals:
            raise InputError("an answer needs KEY=VALUE", value=answer, mend="Write for example unit=mm.")
        how[key.strip().lower()] = value.strip()
    job = open_job(options.input, AsRead(how, lambda text: print(in_words(text), file=sys.stderr)))
    for setting in options.set:
        key, equals, value = _readable(setting).partition("=")
        if not equals:
            raise InputError("a setting needs KEY=VALUE", value=setting, mend="Write for example skin=6mm.")
        job = apply_override(job, key.strip(), value.strip())
    if is_job_file(options.input) or SETUP not in needed_for(needs, job):
        return job
    job, words = suited(job)
    if words:
        print(words, file=sys.stderr)
    return job


def _plan(options: argparse.Namespace) -> int:
    from .core.pipeline import Pipeline

    export = export_named("plan-json")
    if options.out is not None:
        refuse_over(options.out, [options.input], force=options.force)
    data = export.write(Pipeline().results(_job(options, export.needs), export.needs))
    if options.out is None:
        _say_out(data)
    else:
        write_atomic(options.out, data)
    return DONE


def _say_out(data: bytes) -> None:
    """Write to standard output. Raises InputError where that is closed or full."""
    mend = "Give --out FILE, on a disk with room."
    if sys.stdout is None:
        raise InputError("standard output is closed", mend=mend)
    try:
        sys.stdout.write(data.decode())
        sys.stdout.flush()
    except BrokenPipeError:
        raise
    except OSError as error:
        # what is left in its buffer would fail once more when Python ends
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        raise InputError("standard output cannot be written", value=error.strerror or "", mend=mend) from None


def _readable(text: str) -> str:
    """An argument with bytes that are no text replaced by the mark for what cannot be read."""
    return text.encode("utf-8", "surrogateescape").decode("utf-8", "replace")


def _export(options: argparse.Namespace) -> int:
    from .core.pipeline import Pipeline

    export = export_named(options.kind)
    refuse_over(options.out, [options.input], force=options.force)
    results = Pipeline().results(_job(options, export.needs), export.needs, glad_of=export.glad_of)
    write_export(export, results, options.out)
    missing = export.lacks(results)
    for text in missing:
        print(f"left out: {in_words(text)}", file=sys.stderr)
    for text in _mends(results, missing):
        print(text, file=sys.stderr)
    return PARTLY if missing else DONE


def _mends(results: Results, missing: Sequence[str]) -> list[str]:
    """What would put right what was left out: the mends that the window has as buttons, as settings to be given."""
    from .app.mends import mend_of
    from .app.overrides import as_overrides

    told: dict[str, None] = {}
    for finding in results.findings:
        mend = mend_of(finding, results) if finding.in_a_line() in missing else None
        settings = as_overrides(results.job, mend.job) if mend is not None else None
        if mend is not None and settings:
            told[f"{mend.text}: " + " ".join(f"--set {shlex.quote(one)}" for one in settings)] = None
    return list(told)


def _demo(options: argparse.Namespace) -> int:
    with window_starting() as worker:
        from .demo.jobs import demo_job
        from .ui.window.start import run_pictures, run_window

        job = demo_job(options.name)
        if options.pictures is not None:
            return run_pictures(worker, job, options.pictures)
        return run_window(worker, None, job)


if __name__ == "__main__":
    sys.exit(main())
