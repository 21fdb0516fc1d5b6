"""What an operator asks for as jobs of a station: one for each frame, never more than the glass has, refused in a sentence."""

import pytest

from hollowstack.core.page.paper_path import PaperPath
from hollowstack.server.capture.escl.messages import Capabilities, SourceCapabilities
from hollowstack.server.capture.settings import CaptureSettings, jobs_for
from hollowstack.server.errors import Refused

FORMATS = ("image/jpeg", "image/png", "image/tiff")
GLASS = SourceCapabilities(216.0, 297.0, (75, 300), ("RGB24",), FORMATS)
FEEDER = SourceCapabilities(220.0, 356.0, (), ("RGB24",), ("image/tiff", "application/pdf"))
BOTH = Capabilities("Bench", GLASS, FEEDER, two_sided=False)
SLOW = Capabilities("Bench", GLASS, FEEDER, two_sided=False, slow_feed=True)
TWO_SIDED = Capabilities("Bench", None, FEEDER, two_sided=True)


def regions(can: Capabilities = BOTH, **wish: object) -> list[tuple[float, ...]]:
    settings = CaptureSettings.model_validate({"source": "platen", **wish})
    return [tuple(round(v, 2) for v in job.region_mm) for job in jobs_for(settings, can)]


@pytest.mark.parametrize(
    ("source", "paper", "region"),
    [
        ("platen", None, (0, 0, 216, 297)),
        ("platen", (100, 150), (0, 0, 100, 150)),
        ("platen", (400, 500), (0, 0, 216, 297)),
        ("feeder", None, (0, 0, 220, 356)),
        ("feeder", (100, 150), (60, 0, 100, 150)),
        ("feeder", (300, 150), (0, 0, 220, 150)),
        ("platen", (5, 5), (0, 0, 5, 5)),
    ],
)
def test_paper_lies_in_the_corner_of_the_glass_and_in_the_middle_of_a_feeder(source, paper, region):
    assert regions(source=source, paper=paper) == [region]


@pytest.mark.parametrize("paper", [(4.9, 100), (100, 4.9), (0, 0)])
def test_paper_without_a_size_is_refused(paper):
    with pytest.raises(Refused, match="no size"):
        regions(paper=paper)


def test_each_frame_is_a_job_of_its_own_within_the_glass():
    frames = [(50, 60, 40, 20, 0), (210, 290, 40, 40, 0), (50, 60, 40, 20, 90), (2, 2, 20, 20, 0)]
    found = regions(frames=frames)
    assert found == [(30, 50, 40, 20), (190, 270, 26, 27), (40, 40, 20, 40), (0, 0, 12, 12)]
    assert regions(source="feeder", frames=frames) == [(0, 0, 220, 356)]


@pytest.mark.parametrize(
    ("frame", "sentence"),
    [
        ((50, 50, 4.9, 20, 0), "too small"), ((50, 50, 20, 4.9, 0), "too small"), ((222, 50, 20, 20, 0), "beside the glass"),
        ((50, 305, 20, 20, 0), "beside the glass"), ((-6, 50, 20, 20, 0), "beside the glass"),
    ],
)  # fmt: skip
def test_a_frame_that_is_none_is_refused(frame, sentence):
    with pytest.raises(Refused, match=sentence):
        regions(frames=[frame])


@pytest.mark.parametrize("frame", [(50, 50, 5, 20, 0), (221, 50, 20, 20, 0), (50, 302, 20, 20, 0), (-5, 50, 20, 20, 0)])
def test_a_frame_that_only_just_is_one_is_captured(frame):
    assert len(regions(frames=[frame])) == 1


@pytest.mark.parametrize(
    ("can", "wish", "sentence"),
    [
        (TWO_SIDED, {"source": "platen"}, "no glass"),
        (Capabilities("Glass", GLASS, None, two_sided=False), {"source": "feeder"}, "no feeder"),
        (BOTH, {"source": "feeder", "two_sided": True}, "one side"),
        (BOTH, {"ppi": 150}, "choose one of 75, 300"),
        (BOTH, {"source": "feeder", "slow": True}, "cannot feed slowly"),
        (SLOW, {"source": "platen", "slow": True}, "cannot feed slowly"),
    ],
)
def test_what_a_station_cannot_do_is_refused(can, wish, sentence):
    with pytest.raises(Refused, match=sentence):
        regions(can, **wish)


def test_a_source_that_names_no_resolutions_takes_any():
    (job,) = jobs_for(CaptureSettings(source="feeder", ppi=123, two_sided=True), TWO_SIDED)
    assert (job.source, job.two_sided, job.ppi) == ("Feeder", True, 123)


@pytest.mark.parametrize(
    ("source", "colour", "mode", "kind"),
    [
        ("platen", "bitonal", "BlackAndWhite1", "image/png"),
        ("platen", "grey", "Grayscale8", "image/jpeg"),
        ("platen", "colour", "RGB24", "image/jpeg"),
        ("feeder", "bitonal", "BlackAndWhite1", "image/tiff"),
        ("feeder", "colour", "RGB24", "image/tiff"),
    ],
)
def test_each_colour_comes_as_a_file_that_loses_nothing_it_need_not(source, colour, mode, kind):
    (job,) = jobs_for(CaptureSettings(source=source, colour=colour), BOTH)
    assert (job.colour, job.media_type) == (mode, kind)


def test_a_source_without_a_known_format_is_asked_for_jpeg():
    odd = Capabilities("Odd", SourceCapabilities(100, 100, (), (), ("application/pdf",)), None, two_sided=False)
    assert jobs_for(CaptureSettings(source="platen"), odd)[0].media_type == "image/jpeg"


def test_only_what_is_asked_for_is_fed_slowly():
    assert jobs_for(CaptureSettings(source="feeder", slow=True), SLOW)[0].slow
    assert not jobs_for(CaptureSettings(source="feeder"), SLOW)[0].slow


def test_paper_lies_where_somebody_has_said_that_it_goes_in():
    guided = PaperPath("down", "top", "left")
    (job,) = jobs_for(CaptureSettings(source="feeder", paper=(100, 150)), BOTH, guided)
    assert job.region_mm == (120, 0, 100, 150)
    (job,) = jobs_for(CaptureSettings(source="feeder", paper=(300, 150)), BOTH, guided)
    assert job.region_mm == (0, 0, 220, 150)
    (job,) = jobs_for(CaptureSettings(source="platen", paper=(100, 150)), BOTH, PaperPath("down", "top", "front left"))
    assert job.region_mm == (116, 147, 100, 150)
