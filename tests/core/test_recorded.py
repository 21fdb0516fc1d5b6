"""Figures change only on purpose: results are kept under the version of the step that made them, so whoever changes what a
step makes of a page raises its version, looks at the figures that changed (``make record`` writes them) and commits those."""

import json
from pathlib import Path

import pytest

from tests.core.recorded.figures import VERSIONS, differences, figures_of
from tests.core.recorded.pages import PAGES

RECORD = json.loads((Path(__file__).parent / "recorded" / "figures.json").read_text(encoding="utf-8"))


def test_the_record_is_of_todays_steps():
    assert RECORD["versions"] == VERSIONS, "run `make record`, and look at what changed"
    assert RECORD["pages"].keys() == PAGES.keys()


@pytest.mark.parametrize("name", PAGES)
def test_a_page_has_the_figures_on_record(name):
    now = json.loads(json.dumps(figures_of(PAGES[name]())))
    assert differences(now, RECORD["pages"][name]) == [], "raise the step's version and run `make record`, if that is meant"
