"""Figures change only on purpose: results are kept under the version of the step that made them, so whoever changes what a
step makes of a page raises its version, looks at the figures that changed (``make record`` writes them) and commits those."""

import json
import os
from pathlib import Path

import pytest

from tests.core.recorded.figures import VERSIONS, differences, figures_of, without_clean_pages
from tests.core.recorded.pages import PAGES

RECORD = json.loads((Path(__file__).parent / "recorded" / "figures.json").read_text(encoding="utf-8"))

CLEANED = set(PAGES if os.environ.get("HOLLOWSTACK_RECORDED") == "all" else list(PAGES)[::3])
"""Pages whose clean pages are made and guarded, too: a third of them, or all in ``make accuracy``."""


def test_the_record_is_of_todays_steps():
    assert RECORD["versions"] == VERSIONS, "run `make record`, and look at what changed"
    assert RECORD["pages"].keys() == PAGES.keys()


@pytest.mark.parametrize("name", PAGES)
def test_a_page_has_the_figures_on_record(name):
    recorded = RECORD["pages"][name]
    now = json.loads(json.dumps(figures_of(PAGES[name](), whole=name in CLEANED)))
    assert differences(now, recorded if name in CLEANED else without_clean_pages(recorded)) == [], (
        "raise the step's version and run `make record`, if that is meant"
    )
