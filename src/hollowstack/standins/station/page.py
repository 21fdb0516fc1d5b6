"""The simulated station's own page, for whoever stands beside the machine: what lies in it, drawn, and mishaps."""

import html

from hollowstack.standins.station.bundles import bundles
from hollowstack.standins.station.device import Device

_STYLE = """
:root { color-scheme: light dark }
body { font: 15px/1.5 system-ui, sans-serif; max-width: 62rem; margin: 2rem auto; padding: 0 1.5rem;
  background: light-dark(#f7f7f5, #1b1d1e); color: light-dark(#16181a, #ecedeb) }
main { display: flex; flex-wrap: wrap; gap: 3rem }
svg { width: 22rem; max-height: 30rem }
section { flex: 1; min-width: 20rem }
h1 { font-size: 1.75rem } h2 { font-size: 1rem; margin: 1.5rem 0 .25rem }
form { display: inline } button, input { font: inherit; margin: .15rem .15rem .15rem 0; min-height: 2rem }
form.panel { display: flex; gap: 1rem; align-items: center; width: fit-content; padding: .25rem 1rem; margin: .5rem 0;
  border: 1px solid light-dark(#83837f, #7d8284) }
form.shown { border: 2px solid light-dark(#0e5563, #7fc4d1); animation: blink 1s steps(2) 8 }
@keyframes blink { 50% { border-color: transparent } }
@media (prefers-reduced-motion: reduce) { form.shown { animation: none } }
p { color: light-dark(#4a4f52, #b4b8b8) }
"""
_SEEN = 24
"""So many sheets of a pile are drawn."""


def page(device: Device, bundle: str) -> str:
    """The page as HTML. ``bundle`` is what was laid in last, by its key."""
    place = "on the glass" if device.model.platen else "in the feeder"
    sheets = ", ".join(html.escape(leaf.name) for leaf in device.tray) or "nothing"
    feeder = device.adf_state if device.model.feeder else ""
    drawing = _glass(device) if device.model.platen else _feeder(device)
    name = html.escape(device.model.name)
    return (
        f"<!doctype html><html lang=en><meta charset=utf-8><title>{name}</title><style>{_STYLE}</style>"
        f"<h1>{name}</h1>"
        f"<p>A simulated station. Now {place}: {sheets}. {feeder}</p>{_panel(device)}"
        f"<main>{drawing}<section><h2>Lay {place}</h2>{_choices(device, bundle)}"
        "<form method=post action=/tray><button name=load value=''>Take everything out</button></form>"
        "<p><label>Lay an image of your own in: <input type=file accept='image/*' onchange=\"fetch('/tray/file',"
        "{method:'POST',body:this.files[0]}).then(()=>location.reload())\"></label></p>"
        "<h2>Mishaps</h2>"
        "<form method=post action=/tray><button name=jam_after value=6>Jam at sheet 7</button>"
        "<button name=double_feed_at value=3>Take two sheets at once at the third</button>"
        "<button name=lid_open value=1>Leave the lid open</button><button name=lid_open value=0>Close the lid</button>"
        "<button name=offline value=1>Pull the cable</button><button name=offline value=0>Plug it in</button>"
        "<button name=power value=off>Switch it off</button><button name=power value=on>Switch it on</button>"
        "<button name=clear value=1>Clear the jam</button></form></section></main></html>"
    )


def _panel(device: Device) -> str:
    """Its panel: what it is at, its start key, and a sentence with which it makes itself known."""
    job = device.busy
    said = (
        f"Capturing, {job.made} images so far"
        if job
        else {"Testing": "Warming up", "Stopped": "Stopped"}.get(device.state, "Ready")
    )
    stop = "<button name=cancel value=1>Cancel</button>" if job else ""
    keys = (
        f"<form class=panel method=post action=/tray><output>{said}</output>"
        f"<button name=start value=1>Start</button>{stop}</form>"
    )
    if not device.shown:
        return keys
    return (
        f"{keys}<form class='panel shown' method=post action=/tray><output>{html.escape(device.shown)}</output>"
        "<button name=seen value=1>Seen</button></form>"
    )


def _choices(device: Device, bundle: str) -> str:
    kinds = bundles()
    loose = {key: words for key, (words, _) in kinds.items() if key != "test-sheet"}
    plain = "".join(_choice(key, words, "here now" if key == bundle else "") for key, words in loose.items())
    turned = "".join(
        f"<form method=post action=/tray><input type=hidden name=load value={key}>"
        f"<button name=flipped value=1>{html.escape(words)}, turned over</button></form>"
        for key, (words, _) in kinds.items()
        if device.model.feeder and key.startswith("register")
    )
    return plain + turned + _test_sheets(device)


def _test_sheets(device: Device) -> str:
    """The test sheet as it says itself how to lay it in, its printed side up or down: on a glass there is one way."""
    ways = ("down",) if device.model.platen else ("up", "down")
    return "".join(
        "<form method=post action=/tray><input type=hidden name=load value=test-sheet>"
        f"<button name=laid value='{face} top'>Test sheet, its printed side {face}</button></form>"
        for face in ways
    )


def _choice(key: str, words: str, said: str) -> str:
    label = html.escape(words) + (f" <b>({said})</b>" if said else "")
    return f"<form method=post action=/tray><button name=load value={key}>{label}</button></form>"


def _glass(device: Device) -> str:
    """The glass from above, in mm, with each sheet where it lies."""
    wide, high = device.model.platen or (216.0, 297.0)
    shapes = "".join(
        f"<g transform='translate({one.x_mm:.1f} {one.y_mm:.1f}) rotate({one.skew + one.turn:.2f})'>"
        f"<rect x={-one.leaf.width_mm / 2:.1f} y={-one.leaf.height_mm / 2:.1f} "
        f"width={one.leaf.width_mm:.1f} height={one.leaf.height_mm:.1f} fill=#f2ead8 stroke=#8a8a88 />"
        f"<text text-anchor=middle dy=3 font-size=9 fill=#16181a>{html.escape(one.leaf.name)}</text></g>"
        for one in device.on_glass()
    )
    words = f"{len(device.tray)} sheets on the glass" if device.tray else "The glass is empty"
    return (
        f"<svg viewBox='-8 -8 {wide + 16:.0f} {high + 16:.0f}' role=img aria-label='{words}'>"
        f"<rect x=-8 y=-8 width={wide + 16:.0f} height={high + 16:.0f} rx=5 fill=#d6d6d2 stroke=#83837f />"
        f"<rect width={wide:.0f} height={high:.0f} fill=#2b2b2b />{shapes}</svg>"
    )


def _feeder(device: Device) -> str:
    """The feeder from its side: its pile, a line for each sheet, the next one at the bottom."""
    lines = "".join(
        f"<rect x=70 y={128 - 5 * (at + 1)} width=150 height=3.4 fill=#f2ead8 stroke=#8a8a88 stroke-width=.6 />"
        for at in range(min(_SEEN, len(device.tray)))
    )
    count = len(device.tray)
    words = f"{count} sheets in the feeder" if count else "The feeder is empty"
    jam = "<text x=150 y=160 text-anchor=middle font-size=13 fill=#9c2419>jam</text>" if "Jam" in device.adf_state else ""
    return (
        f"<svg viewBox='0 0 300 210' role=img aria-label='{words}'>"
        "<path d='M40 130H260V200H40Z' fill=#d6d6d2 stroke=#83837f />"
        "<path d='M60 130 40 20M230 130 250 20' stroke=#83837f stroke-width=3 fill=none />"
        f"<path d='M50 166H250' stroke=#16181a stroke-width=2 />{lines}{jam}"
        f"<text x=150 y=190 text-anchor=middle font-size=13 fill=#16181a>{words}</text></svg>"
    )
