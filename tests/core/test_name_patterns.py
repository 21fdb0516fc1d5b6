"""Names of files by patterns: what stands in braces is filled in, and what comes of it is a name anywhere."""

from datetime import UTC, datetime, timedelta, timezone

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollowstack.core.page.name_patterns import (
    PLACEHOLDERS,
    Named,
    PatternError,
    check_pattern,
    check_placeholders,
    file_name,
    filled_in,
    line_of,
    named,
    numbered,
)

WHEN = datetime(2026, 3, 7, 9, 5, 1, tzinfo=UTC)


def known(**more: object) -> Named:
    told: dict[str, object] = {"title": "Letters", "stack": "Box 27", "created": WHEN, **more}
    return Named(**told)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("pattern", "name"),
    [
        ("{title}", "Letters.pdf"),
        ("{stack}/{identifier} {title}", "Box 27/SL_27_114 Letters.pdf"),
        ("{counter:4}-{document:2}", "0042-07.pdf"),
        ("{counter}", "42.pdf"),
        ("{date} {time}", "2026-03-07 090501.pdf"),
        ("{year}/{month}/{day}", "2026/03/07.pdf"),
        ("{creator}: {written}", "M. Fell_ 1927-06.pdf"),
        ("  {title}  ", "Letters.pdf"),
        ("{pages}", "12.pdf"),
        ("{box}-{shelf}-{position}", "27-C 4-3.pdf"),
        ("{first words}", "Dear Miss Maclaine_.pdf"),
        ("../../{title}", "Letters.pdf"),
        ("a//{title}", "a/Letters.pdf"),
        ("con", "_con.pdf"),
        ("COM1.old", "_COM1.old.pdf"),
        ("title. ", "title.pdf"),
        (".hidden", "hidden.pdf"),
    ],
)
def test_what_is_filled_in(pattern, name):
    of = known(
        number=7,
        counter=42,
        pages=12,
        identifier="SL/27/114",
        creator="M. Fell",
        date="1927-06",
        box="27",
        shelf="C 4",
        position="3",
        first_words=lambda: "Dear  Miss\nMaclaine:",
    )
    assert named(pattern, of, ".pdf") == name


def test_parts_of_dates_are_of_the_time_zone_that_is_told():
    west = known(created=datetime(2026, 3, 7, 1, 0, tzinfo=UTC).astimezone(timezone(timedelta(hours=-5))))
    assert named("{date} {time}", west, ".pdf") == "2026-03-06 200000.pdf"


@pytest.mark.parametrize(
    ("pattern", "said"),
    [
        ("", "is empty"),
        ("  ", "is empty"),
        ("{name}", "no placeholder {name}"),
        ("{title", "no other half"),
        ("title}", "no other half"),
        ("{title:3}", "no number of digits"),
        ("{counter:0}", "no number of digits"),
        ("{counter:10}", "no number of digits"),
        ("{counter:x}", "no number of digits"),
        ("/".join("abcdefghi"), "8 folders deep; the most is 7"),
    ],
)
def test_a_pattern_that_names_nothing_is_refused_in_a_sentence(pattern, said):
    with pytest.raises(PatternError, match=said):
        check_pattern(pattern)


def test_as_many_digits_and_folders_as_may_be():
    check_pattern("{counter:1}{counter:9}")
    check_pattern("/".join("abcdefgh"))


def test_long_names_are_cut_at_whole_characters():
    name = named("{title}", known(title="ä" * 150), ".pdf")
    assert name == "ä" * 100 + ".pdf"
    assert len(name.encode()) <= 255


@given(st.text(max_size=300), st.text(max_size=60), st.sampled_from([f"{{{one}}}" for one in PLACEHOLDERS]))
def test_whatever_is_filled_in_never_leads_elsewhere(title, stack, placeholder):
    name = named(f"box/{placeholder}", known(title=title, stack=stack, creator=title), ".pdf")
    folder, slash, last = name.rpartition("/")
    assert (folder, slash) in {("box", "/"), ("", "")}
    assert last not in {"", ".", ".."}
    assert not last.startswith(".")
    assert not set('<>:"\\|?*\x00\n') & set(last)
    assert len(last.encode("utf-8", "replace")) <= 204


def test_numbers_stand_before_the_suffix():
    assert numbered("a.b/Letters.pdf", 2) == "a.b/Letters (2).pdf"
    assert numbered("Letters", 3) == "Letters (3)"
    assert numbered("a/.pdf", 2) == "a/.pdf (2)"


def test_nothing_filled_in_is_a_name_still():
    assert named("{identifier}", known(), ".pdf") == "document.pdf"


def test_a_text_keeps_braces_that_are_none():
    of = known(identifier="SL/27/114", pages=3)
    assert filled_in("{title}, {identifier}: {pages}\n{else} {title", of) == "Letters, SL/27/114: 3\n{else} {title"


def test_words_are_looked_up_where_they_are_wanted_alone():
    def never() -> str:
        raise AssertionError

    assert named("{title}", known(first_words=never), ".pdf") == "Letters.pdf"


@pytest.mark.parametrize(
    ("pattern", "name"),
    [
        ("{title}: {box}, {written}", "Letters, 1927/28"),
        ("{counter:3}/{written}", "042/1927/28"),
        ("  {box} ", ""),
        ("{title}, {box}; No. {counter}", "Letters; No. 42"),
        ("·{box} – {title} -", "– Letters"),
    ],
)
def test_a_line_has_no_gaps_and_keeps_what_files_cannot(pattern, name):
    assert line_of(pattern, known(counter=42, date="1927/28")) == name


@pytest.mark.parametrize("pattern", ["{title", "{weather}"])
def test_a_line_of_what_there_is_not_is_refused(pattern):
    with pytest.raises(PatternError):
        line_of(pattern, known())


def test_only_some_may_be_filled_in():
    check_placeholders("{title} {counter:2}", ["title", "counter"])
    with pytest.raises(PatternError, match=r"no placeholder \{pages\}: the ones there are: title, counter\."):
        check_placeholders("{title} {pages}", ["title", "counter"])


@pytest.mark.parametrize(
    ("text", "name"),
    [
        ("Letters & bills, 1/2", "Letters & bills, 1_2.zip"),
        ("…", "….zip"),
        (" . ", "document.zip"),
        ("", "document.zip"),
        ("con", "_con.zip"),
        ("what?", "what_.zip"),
    ],
)
def test_any_text_is_the_name_of_a_file(text, name):
    assert file_name(text, ".zip") == name
