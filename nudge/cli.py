"""The command line: serve, demo, assess, backup, restore, check, certificate."""

import argparse
import errno
import json
import socket
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from pydantic import ValidationError

from nudge.contract.assessing import assess_request
from nudge.contract.plain import plain_text
from nudge.contract.request import AssessIn
from nudge.core.language.errors import CoreError

if TYPE_CHECKING:
    from nudge.services.workshop import Workshop
    from nudge.settings import Settings


def main(arguments: Sequence[str] | None = None) -> int:
    """Run a command; the exit status is 0, or 2 with the reason on standard error."""
    parser = argparse.ArgumentParser(prog="nudge", description=__doc__)
    commands = parser.add_subparsers(dest="command", required=True)
    commands.add_parser("serve", help="serve the application from the data folder")
    commands.add_parser("demo", help="the same, with the Skerrow data in an empty data folder")
    assess = commands.add_parser("assess", help="assess readings in a JSON file")
    assess.add_argument("file", metavar="FILE.json", help="a request as for POST /api/assess, or -")
    assess.add_argument("--text", action="store_true", help="the answer as plain text")
    for name, what in (
        ("backup", "copy everything into one file, while Nudge may be running"),
        ("restore", "put a copy in place; what was there is set aside"),
    ):
        commands.add_parser(name, help=what).add_argument("file", metavar="FILE", type=Path)
    taken = commands.add_parser("take-in", help="take a bundle of another Nudge in")
    taken.add_argument("file", metavar="BUNDLE.json", type=Path)
    taken.add_argument("--look", action="store_true", help="say what it would bring; write nothing")
    taken.add_argument("--json", action="store_true", help="the answer as JSON")
    named = commands.add_parser(
        "certificate", help="make an authority and a certificate for this machine's names"
    )
    named.add_argument("names", metavar="NAME", nargs="*", help="more names or addresses of it")
    commands.add_parser("check", help="look the data folder over, changing nothing")
    chosen = parser.parse_args(arguments)
    if chosen.command == "assess":
        return _assess(chosen.file, chosen.text)
    if chosen.command == "take-in":
        return _take_in(chosen.file, chosen.look, chosen.json)
    if chosen.command == "certificate":
        return _certificate(chosen.names)
    if chosen.command in ("backup", "restore", "check"):
        return _upkeep(chosen.command, getattr(chosen, "file", None))
    return _serve(with_demo=chosen.command == "demo")


def _assess(name: str, as_text: bool) -> int:
    try:
        text = sys.stdin.read() if name == "-" else Path(name).read_text("utf-8")
    except (OSError, UnicodeDecodeError) as unreadable:
        return _fail(f"{name} cannot be read: {unreadable}")
    try:
        request = AssessIn.model_validate_json(text)
        answer = assess_request(request)
    except ValidationError as invalid:
        return _fail(*(f"{_place(e['loc'])}: {e['msg']}" for e in invalid.errors()[:20]))
    except CoreError as refused:
        return _fail(refused.text(request.units))
    if as_text:
        print(plain_text(answer))
        return 0
    json.dump(answer.to_dict(), sys.stdout, indent=2)
    print()
    return 0


def _place(location: Sequence[int | str]) -> str:
    return ".".join(str(part)[:80] for part in location) or "request"


def _upkeep(command: str, file: Path | None) -> int:
    from nudge import upkeep
    from nudge.settings import Settings

    folder = Settings.from_environment().data_folder
    try:
        if command == "check" or file is None:
            return upkeep.check(folder)
        said = upkeep.backup(folder, file) if command == "backup" else upkeep.restore(folder, file)
    except upkeep.TROUBLE as refused:
        return _fail(str(refused))
    print(said)
    return 0


def _take_in(file: Path, only_looks: bool, as_json: bool) -> int:
    from nudge.rehearsal import take_in
    from nudge.settings import Settings

    try:
        found = take_in(file, Settings.from_environment().data_folder, only_looks)
    except OSError as unreadable:
        return _fail(f"{file} cannot be read: {unreadable.strerror or unreadable}")
    if as_json:
        print(json.dumps(found))
        return 0
    if found["reasons"]:
        return _fail("Not taken in; nothing was changed.", *found["reasons"])
    tense = "would bring" if only_looks else "brought"
    print(f"It {tense} {found['visits']} visits and {found['systems']} systems; "
          f"{found['already_here']} visits were here already.")  # fmt: skip
    return 0


def _certificate(more: Sequence[str]) -> int:
    from nudge import certificate
    from nudge.presenters.links import own_address
    from nudge.settings import Settings

    address = own_address()
    names = list(dict.fromkeys([*certificate.own_names(address), *more]))
    try:
        folder = certificate.make(Settings.from_environment().data_folder, names)
    except (certificate.BadName, OSError) as refused:
        return _fail(str(refused))
    print(f"For {', '.join(names)}.\n")
    print(certificate.how_to_trust(folder, address))
    return 0


def _serve(with_demo: bool) -> int:
    import uvicorn

    from nudge.certificate import AUTHORITY, FOLDER, found_in
    from nudge.logs import write_to
    from nudge.main import SCREENS, create_app
    from nudge.memory import leave_standing, share_arenas
    from nudge.patience import MOST_CONNECTIONS, PatientProtocol
    from nudge.services.workshop import Workshop
    from nudge.settings import Settings
    from nudge.store.database import CannotOpen, Database
    from nudge.store.lock import InUse, hold

    share_arenas()
    settings = Settings.from_environment()
    listener = _listen(settings.host, settings.port)
    if isinstance(listener, str):
        return _fail(listener)
    try:
        lock = hold(settings.data_folder)
        if with_demo:
            from nudge.demo.skerrow import fill_folder

            fill_folder(settings.data_folder)
        database = Database(settings.data_folder)
    except (CannotOpen, InUse) as refused:
        return _fail(str(refused))
    except OSError as refused:
        return _fail(
            f"The data folder {settings.data_folder} cannot be written "
            f"({refused.strerror or refused}). Give Nudge a folder it may write in NUDGE_DATA."
        )
    write_to(settings.data_folder)
    workshop = Workshop(database)
    workshop.begin()
    if not SCREENS.is_dir():
        print("The screens are not built; only /api answers. Run `make demo`.", file=sys.stderr)
    tls = settings.tls or (found_in(settings.data_folder) if settings.listens_beyond else None)
    _say_where(settings, workshop, "https" if tls else "http")
    server = uvicorn.Server(
        uvicorn.Config(
            create_app(
                workshop,
                hosts=settings.hosts,
                listens_beyond=settings.listens_beyond,
                authority=settings.data_folder / FOLDER / AUTHORITY,
            ),
            ssl_certfile=tls and tls[0],
            ssl_keyfile=tls and tls[1],
            http=PatientProtocol,
            limit_concurrency=MOST_CONNECTIONS,
            log_config=None,
            access_log=False,
            timeout_graceful_shutdown=3,
        )
    )
    leave_standing()
    with lock:
        server.run(sockets=[listener])
    return 0


def _say_where(settings: "Settings", workshop: "Workshop", scheme: str) -> None:
    """Where Nudge is; and, where other machines reach it, the code that lets the first one in."""
    host = f"[{settings.host}]" if ":" in settings.host else settings.host
    print(f"Nudge is at {scheme}://{host}:{settings.port}  (data in {settings.data_folder})")
    if settings.listens_beyond:
        import segno

        from nudge.presenters.devices import code_out

        code = code_out(workshop.devices.new_code(), settings.port, scheme, is_reachable=True)
        print(
            f"To let a device in, open {code.address or 'its address'} on it and type {code.code}"
        )
        print("(once, within ten minutes; more codes are on this machine under Workshop).")
        if code.address and sys.stdout.isatty():
            segno.make(f"{code.address}#{code.code.replace(' ', '')}").terminal(compact=True)
        if scheme == "http":
            print("What is sent can be read on this network. For https run: nudge certificate")
    sys.stdout.flush()


def _listen(host: str, port: int) -> socket.socket | str:
    """A listening socket, or why there is none."""
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    # IPPROTO_TCP by name: asyncio sets TCP_NODELAY only then, and without it every answer
    # waits 40 ms for the browser's delayed acknowledgement.
    listener = socket.socket(family, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    try:
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        listener.bind((host, port))
        listener.listen(128)
        return listener
    except OSError as refused:
        listener.close()
        if refused.errno == errno.EADDRINUSE:
            return (
                f"Port {port} on {host} is busy: something is already listening there, perhaps "
                f"another Nudge. Stop it, or choose another port: PORT={port % 65535 + 1} make demo"
            )
        return (
            f"Cannot listen on {host}:{port}: {refused.strerror or refused}. Check HOST and PORT."
        )


def _fail(*reasons: str) -> int:
    for reason in reasons:
        print(f"nudge: {reason}", file=sys.stderr)
    return 2


if __name__ == "__main__":
    raise SystemExit(main())
