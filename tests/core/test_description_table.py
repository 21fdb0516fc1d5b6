"""Tables of descriptions: what is written is read again, and what cannot be taken is said line by line."""

import csv
import io

import pytest

from hollowstack.core.bind.description import MOST_TEXT
from hollowstack.core.bind.description_table import Row, TableError, read_table, written_table

TOLD = {
    "title": "Letter, “about oil”",
    "creators": ["T. Harrow", "A. Merriwether"],
    "date": "about 1927",
    "identifier": "SL/27/114",
    "description": "Two lines,\nwith a comma; and more",
    "type": "letter",
    "relations": ["SL/27/115"],
    "language": "en",
}


def said(text: str, documents: int = 3, coding: str = "utf-8"):
    return read_table(text.encode(coding), documents)


def test_what_is_written_is_read_again():
    table = read_table(written_table([Row(1, 1, 3, TOLD), Row(2, 4, 1, {})]), 2)
    first, second = table.lines
    assert table.left == ()
    told = {name: value for name, value in first.told.items() if value}
    assert told == {**TOLD, "description": "Two lines, with a comma; and more"}
    assert (first.document, first.refused, second.document) == (1, "", 2)
    assert not any(second.told.values())


@pytest.mark.parametrize("text", ["=1+1", "+44 a", "-b", "@home"])
def test_what_looks_like_a_formula_is_none_in_the_file_and_comes_back_as_it_was(text):
    data = written_table([Row(1, 1, 1, {"title": text})])
    (_, row) = csv.reader(io.StringIO(data.decode("utf-8-sig")))
    assert f"'{text}" in row
    assert read_table(data, 1).lines[0].told["title"] == text


def test_an_apostrophe_before_anything_else_stays():
    assert said("title\n'tis\n").lines[0].told == {"title": "'tis"}


@pytest.mark.parametrize("apart", [",", ";", "\t"])
def test_cells_are_parted_as_the_head_parts_them(apart):
    (line,) = said(apart.join(["document", "title"]) + "\r\n" + apart.join(["2", "Log"])).lines
    assert (line.document, line.told) == (2, {"title": "Log"})


@pytest.mark.parametrize("coding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
def test_files_of_older_and_other_programs(coding):
    assert said("title\nCafé “Hüne”\n", coding=coding).lines[0].told == {"title": "Café “Hüne”"}


def test_columns_by_other_names_and_columns_that_mean_nothing():
    table = said("No.;DC:Creator;Keywords;Shelfmark;first page;\n1;T. Harrow; A. M;oil;;9;\n")
    (line,) = said("No.;DC:Creator;Keywords;Shelfmark;first page;\n1;T. Harrow;oil;B 3;9;\n").lines
    assert table.left == ("Shelfmark",)
    assert line.told == {"creators": ["T. Harrow"], "subjects": ["oil"]}


def test_without_numbers_lines_are_of_documents_in_their_order_and_empty_lines_of_none():
    table = said("title\nOne\n\n  \nTwo\n")
    assert [(line.number, line.document, line.told["title"]) for line in table.lines] == [(2, 1, "One"), (5, 2, "Two")]


@pytest.mark.parametrize(
    ("text", "refused"),
    [
        ("document,title\n4,A\n", "“4” is none of the documents: there are 3 documents."),
        ("document,title\n0,A\n", "“0” is none of the documents: there are 3 documents."),
        ("document,title\nx,A\n", "“x” is none of the documents: there are 3 documents."),
        ("document,title\n2,A, B\n", "The line has more cells than there are columns: put texts with commas in quotes."),
        (f"title\n{'x' * 201}\n", "The title has 201 characters; the most is 200: shorten it."),
        (
            f"rights\n{'x' * (MOST_TEXT + 1)}\n",
            f"“rights” of a description has {MOST_TEXT + 1} characters; the most is {MOST_TEXT}: shorten it.",
        ),
    ],
)
def test_lines_that_are_not_taken_say_why(text, refused):
    (line,) = said(text).lines
    assert line.refused == refused


def test_the_longest_title_is_taken():
    assert said(f"title\n{'x' * 200}\n").lines[0].refused == ""
    assert said("document,title\n3,A,\n").lines[0].refused == ""


def test_a_document_is_told_of_once():
    first, second, third = said("document,title\n2,A\n2,B\n1,C\n").lines
    assert (first.refused, third.refused) == ("", "")
    assert second.refused == "Document 2 is told of in line 2 already."


def test_a_line_that_was_not_taken_leaves_its_document_to_another():
    first, second = said("document,title\n2,A, B\n2,C\n").lines
    assert (bool(first.refused), second.refused) == (True, "")


@pytest.mark.parametrize(
    ("data", "wrong"),
    [
        (b"", "The file is empty"),
        (b"colour,weight\nred,3\n", "The first line names no column that is known"),
        (b"document,first page\n1,2\n", "The first line names no column that is known"),
        (b"title,date,Title\na,b,c\n", "Two columns are called “title”"),
        (b"title\n" + b"x" * 5_000_000, "The file has 5,000,006 bytes"),
        (b'title\n"' + b"x" * 140_000 + b'"\n', "This is no table of comma-separated values"),
    ],
)
def test_what_is_no_table_is_said(data, wrong):
    with pytest.raises(TableError, match=wrong):
        read_table(data, 3)


def test_a_line_of_all_of_them():
    table = read_table(written_table([Row(0, 0, 4, TOLD), Row(1, 1, 4, {})]), 1)
    assert [(line.whole, line.document, line.refused) for line in table.lines] == [(True, 0, ""), (False, 1, "")]
    assert table.lines[0].told["creators"] == TOLD["creators"]
    assert said("document;date\nALL;1927\n").lines[0].whole
    twice = said("document;date\nall;1927\n1;\nall;1928\n").lines
    assert [line.refused for line in twice] == ["", "", "What is said of all is told of in line 2 already."]
    wrong = said(f"document;date\nall;{'x' * (MOST_TEXT + 1)}\n").lines[0]
    assert (wrong.whole, "characters" in wrong.refused) == (True, True)
