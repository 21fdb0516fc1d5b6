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
    parser.add_argument("--certificate", metavar="FILE", help="serve over TLS with this certificate chain (PEM)")
    parser.add_argument("--key", metavar="FILE", help="and its private key (PEM)")
    parser.add_argument(
        "--without-tls",
        action="store_true",
        help="listen on other addresses than this machine's without TLS: all can read it",
    )
    parser.add_argument("--no-engine", action="store_true", help="web application only; the engine runs elsewhere")
    parser.add_argument(
        "--stations", nargs=3, type=int, metavar="PORT", help="start three simulated stations on these ports, for trying out"
    )
    parser.add_argument(
        "--receivers", nargs=4, type=int, metavar="PORT",
        help="start simulated receivers of documents (mail, SFTP, storage, and their page) on these ports, for trying out",
    )  # fmt: skip
    parser.set_defaults(run=serve)


def serve(words: argparse.Namespace) -> int:
    """Run until stopped; returns the exit status."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "hollowstack.server.config.settings")
    if words.stations:  # they are on this machine
        os.environ.setdefault("HOLLOWSTACK_STATION_NETWORKS", "127.0.0.0/8,::1/128")
    if words.receivers:
        os.environ.setdefault("HOLLOWSTACK_DELIVERY_NETWORKS", "127.0.0.0/8,::1/128")
    # The cluster's talk of its own comings and goings is of no use to whoever started the program.
    os.environ.setdefault("DASK_LOGGING__DISTRIBUTED", "error")
    import django
    import uvicorn
    from django.conf import settings
    from django.core.management import call_command

    if sentence := _unsafe(words):
        print(f"hollowstack serve: {sentence}", file=sys.stderr)
        return 2
    if not _is_free(words.host, words.port):
        print(
            f"hollowstack serve: port {words.port} is taken: stop what uses it, or choose another with --port.",
            file=sys.stderr,
        )
        return 2
    django.setup()
    if not _settings_work():
        return 2
    call_command("migrate", verbosity=0, interactive=False)
    print(
        f"Hollow Stack: {'https' if words.certificate else 'http'}://{words.host}:{words.port}   (Ctrl-C ends it)",
        flush=True,
    )
    if not _is_anybody():
        print("Nobody can sign in yet: hollowstack person add NAME --role administrator", flush=True)
    parent = str(os.getpid())
    manage = ["hollowstack.server.manage"]
    keepers = [_Keeper([*manage, "capture", "--parent", parent]), _Keeper([*manage, "deliver", "--parent", parent])]
    if not words.no_engine:
        keepers.append(_Keeper([*manage, "engine", "--parent", parent]))
    if words.stations:
        ports = [str(port) for port in words.stations]
        announce = ["--announce"] if settings.FIND_STATIONS else []
        keepers.append(_Keeper(["hollowstack.standins.station", "--parent", parent, *announce, "--ports", *ports]))
        if not announce:  # nobody would find them
            threading.Thread(target=_add_stations, args=(words.stations,), daemon=True).start()
    if words.receivers:
        ports, folder = [str(port) for port in words.receivers], str(settings.RECEIVERS)
        keepers.append(
            _Keeper(["hollowstack.standins.receivers", "--parent", parent, "--folder", folder, "--ports", *ports])
        )
    for keeper in keepers:
        keeper.start()
    try:
        config = uvicorn.Config(
            "hollowstack.server.config.asgi:application", host=words.host, port=words.port, log_level="warning",
            access_log=False, timeout_graceful_shutdown=2, lifespan="off", server_header=False,
            ssl_certfile=words.certificate, ssl_keyfile=words.key,
        )  # fmt: skip
        uvicorn.Server(config).run()
    except KeyboardInterrupt:
        pass
    finally:
        for keeper in keepers:
            keeper.stop()
    return 0


def _unsafe(words: argparse.Namespace) -> str:
    """Why a served installation would not be safe as it is asked for; empty where it is."""
    from django.conf import settings

    if bool(words.certificate) != bool(words.key):
        return "a certificate and its key belong together: give both."
    if words.host in {"127.0.0.1", "localhost", "::1"} or words.without_tls:
        return ""
    if words.certificate and settings.TLS:
        return ""
    if settings.TLS and settings.SECURE_PROXY_SSL_HEADER:
        return ""
    return (
        "on other addresses than this machine's it speaks TLS: set HOLLOWSTACK_PUBLIC_URL to its https address, and give "
        "--certificate and --key, or set HOLLOWSTACK_PROXY=true behind a proxy that speaks TLS; --without-tls does without."
    )


def _settings_work() -> bool:
    """Whether the settings go together; what is wrong with them is printed."""
    from django.core.checks import ERROR, run_checks

    found = run_checks(tags=["hollowstack"])
    for message in found:
        print(f"hollowstack serve: {message.msg}", file=sys.stderr)
    return all(message.level < ERROR for message in found)


def _is_anybody() -> bool:
    from django.contrib.auth import get_user_model

    return get_user_model().objects.filter(is_active=True).exists()


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
    from hollowstack.server.capture.station_list import add_station
    from hollowstack.server.errors import Refused

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
