"""The stacks of a server, as a script finds them: all, or those of a name."""

from typing import Any

from hollowstack.client.server import Server

_AT_ONCE = 200
_LONGEST_NAME = 200


def stacks(server: Server, name: str | None = None) -> list[dict[str, Any]]:
    """All stacks, or those that are called so, the newest first. Raises ServerError.

    They come in parts: where stacks were made or deleted meanwhile, a part may begin elsewhere than the one before it
    ended, so they are asked for anew.
    """
    asked: dict[str, Any] = {"sort": "begun", "limit": _AT_ONCE}
    if name is not None:
        asked["named"] = name[:_LONGEST_NAME]
    found: dict[int, dict[str, Any]] = {}
    count: int | None = None
    while count is None or len(found) < count:
        part = server.ask("GET", "/stacks", params={**asked, "start": len(found)})
        if count not in (None, part["count"]) or (not part["stacks"] and part["count"]):
            found, count = {}, None
            continue
        count = int(part["count"])
        found |= {one["id"]: one for one in part["stacks"]}
    return [one for one in found.values() if name in (None, one["name"])]
