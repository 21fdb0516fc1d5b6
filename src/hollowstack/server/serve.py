"""``hollowstack serve``: the web application, with the engine and the capture process beside it, until Ctrl-C."""

import argparse
import os
import signal
import socket
import subprocess
import sys
import threading
import time

_GRACE_SECONDS = 15.0


def add_serve(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    """Describe the command's words."""
    parser = commands.add_parser("serve", help="run the web application and the engine", description=__doc__)
    parser.add_argument("--host", default="127.0.0.1", help="address to listen on (default: this machine only)")
    parser.add_argument("--port", type=int, default=8347)
    parser.add_argument("--no-engine", action="store_true", help="web application only; the engine runs elsewhere")
    parser.add_argument(
        "--stations", nargs=3, type=int, metavar="PORT", help="start three simulated stations on these ports, for trying out"
    )
    parser.set_defaults(run=serve)


def serve(words: argparse.Namespace) -> int:
    """Run until stopped; returns the exit status."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "hollowstack.server.config.settings")
    # The cluster's talk of its own comings and goings is of no use to whoever started the program.
    os.environ.setdefault("DASK_LOGGING__DISTRIBUTED", "error")
    import django
    import uvicorn
    from django.core.management import call_command

    if not _is_free(words.host, words.port):
        print(
            f"hollowstack serve: port {words.port} is taken: stop what uses it, or choose another with --port.",
            file=sys.stderr,
        )
        return 2
    django.setup()
    call_command("migrate", verbosity=0, interactive=False)
    print(f"Hollow Stack: http://{words.host}:{words.port}   (Ctrl-C ends it)", flush=True)
    parent = str(os.getpid())
    manage = ["hollowstack.server.manage"]
    keepers = [_Keeper([*manage, "capture", "--parent", parent])]
    if not words.no_engine:
        keepers.append(_Keeper([*manage, "engine", "--parent", parent]))
    if words.stations:
        ports = [str(port) for port in words.stations]
        keepers.append(_Keeper(["hollowstack.standins.station", "--parent", parent, "--ports", *ports]))
        threading.Thread(target=_add_stations, args=(words.stations,), daemon=True).start()
    for keeper in keepers:
        keeper.start()
    try:
        config = uvicorn.Config(
            "hollowstack.server.config.asgi:application", host=words.host, port=words.port, log_level="warning",
            access_log=False, timeout_graceful_shutdown=2, lifespan="off",
        )  # fmt: skip
        uvicorn.Server(config).run()
    except KeyboardInterrupt:
        pass
    finally:
        for keeper in keepers:
            keeper.stop()
    return 0


def _is_free(host: str, port: int) -> bool:
    with socket.socket(socket.AF_INET6 if ":" in host else socket.AF_INET) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except OSError:
            return False
    return True


def _add_stations(ports: list[int]) -> None:
    """Put the simulated stations on the list as soon as they answer, in the order of their ports."""
    from django.db import connection

    from hollowstack.server.capture.models import Station
    from hollowstack.server.capture.services import add_station
    from hollowstack.server.stacks.services import Refused

    for port in ports:
        address = f"http://127.0.0.1:{port}"
        for _ in range(60):
            if Station.objects.filter(address=address).exists():
                break
            try:
                add_station(address)
            except Refused:
                time.sleep(0.5)
    connection.close()


class _Keeper:
    """Starts a process, and again whenever it dies: what it had in hand is derived anew."""

    def __init__(self, words: list[str]) -> None:
        self._words = words
        self._stopping = threading.Event()
        self._process: subprocess.Popen[bytes] | None = None
        self._thread = threading.Thread(target=self._keep, daemon=True)

    def start(self) -> None:
        """Start keeping."""
        self._thread.start()

    def stop(self) -> None:
        """Ask the process to end, and see that it does."""
        self._stopping.set()
        process = self._process
        if process is not None and process.poll() is None:
            process.send_signal(signal.SIGTERM)
            try:
                process.wait(_GRACE_SECONDS)
            except subprocess.TimeoutExpired:
                process.kill()
        if self._thread.is_alive():
            self._thread.join(2)

    def _keep(self) -> None:
        while not self._stopping.is_set():
            began = time.monotonic()
            # A session of its own, so that Ctrl-C reaches it through us, once.
            self._process = subprocess.Popen([sys.executable, "-m", *self._words], start_new_session=True)
            if self._process.wait() == 2:
                return  # it has said why it cannot be started
            if time.monotonic() - began < 5:
                self._stopping.wait(2)
