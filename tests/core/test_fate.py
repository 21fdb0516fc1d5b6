"""Whether the papers of a stack may go."""

from datetime import date

import pytest

from hollowstack.core.settings.original import Original
from hollowstack.core.settings.paper import Standing, fate_of

TODAY = date(2026, 11, 29)
ALL = Standing(signed=True, documents=3, proven=3, missing=0)
MAY = "The papers may be destroyed: the stack is signed for, and all its documents lie whole elsewhere."


def fate(standing: Standing = ALL, **said):
    return fate_of(Original.model_validate(said), standing, TODAY)


def test_nobody_has_said():
    assert fate() == (None, "Nobody has said what becomes of the papers.")


def test_back_to_its_place_at_any_time():
    assert fate(Standing(False, 0, 0, 2), after="back") == (True, "The papers may go back to their place.")


@pytest.mark.parametrize(
    ("until", "may", "said"),
    [
        ("2026-11-30", False, "The papers are kept until 30 November 2026."),
        ("2026-11-29", False, "The papers are kept until 29 November 2026."),
        ("2026-11-28", True, MAY),
        (None, False, "The papers are kept."),
    ],
)
def test_kept_until_a_day(until, may, said):
    assert fate(after="kept", until=until) == (may, said)


@pytest.mark.parametrize(
    ("standing", "lacking"),
    [
        (ALL._replace(signed=False), "nobody has signed for the stack"),
        (ALL._replace(documents=0, proven=0), "nothing has been bound"),
        (ALL._replace(proven=2), "a document has not been proven to lie elsewhere"),
        (ALL._replace(proven=1), "2 documents have not been proven to lie elsewhere"),
        (ALL._replace(missing=1), "a delivered file is lost"),
        (ALL._replace(signed=False, missing=2), "nobody has signed for the stack and 2 delivered files are lost"),
    ],
)
def test_destroyed_only_once_all_is_proven(standing, lacking):
    assert fate(after="destroyed") == (True, MAY)
    assert fate(standing, after="destroyed") == (False, f"The papers may not be destroyed yet: {lacking}.")
    assert fate(standing, after="kept", until="2020-01-01").may is False
