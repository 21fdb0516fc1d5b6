"""Our own check of conformance beside the outside validator: they agree on good files, and on files broken in one way."""

from pathlib import Path

import pytest

from hollowstack.core.bind import FLAVOURS
from hollowstack.core.bind.conformance import check_conformance
from tests.reference.broken import BROKEN, NOT_SEEN_ELSEWHERE
from tests.reference.documents import document


@pytest.fixture(scope="session")
def good(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Path]:
    folder = tmp_path_factory.mktemp("good")
    return {flavour: document(folder / f"{flavour[-2:].strip('-')}.pdf", flavour) for flavour in FLAVOURS}


@pytest.mark.parametrize("flavour", FLAVOURS)
def test_every_flavour_conforms(good, validator, flavour):
    assert validator(good[flavour], flavour) == "ok"
    found = check_conformance(good[flavour], flavour)
    assert found.holds, found.broken
    assert found.flavour == flavour


@pytest.mark.parametrize("name", BROKEN)
def test_what_is_broken_in_one_way_is_refused_by_both(good, validator, tmp_path: Path, name):
    flavour, break_it = BROKEN[name]
    broken = tmp_path / "broken.pdf"
    break_it(good[flavour], broken)
    assert validator(broken, flavour) != "ok"
    assert not check_conformance(broken, flavour).holds


@pytest.mark.parametrize("name", NOT_SEEN_ELSEWHERE)
def test_what_only_our_check_sees(good, tmp_path: Path, name):
    flavour, break_it = NOT_SEEN_ELSEWHERE[name]
    break_it(good[flavour], tmp_path / "broken.pdf")
    assert not check_conformance(tmp_path / "broken.pdf", flavour).holds
