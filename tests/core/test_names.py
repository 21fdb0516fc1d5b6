"""Names of files as they can be written down."""

import os

import pytest

from hollowstack.core.page.file_names import readable


@pytest.mark.parametrize(
    ("raw", "written"),
    [
        (b"letter 1.tif", "letter 1.tif"),
        ("Brief Ä.tif".encode(), "Brief Ä.tif"),
        (b"latin-\xe9.jpg", "latin-\\xe9.jpg"),
        (b"\xff\xfe", "\\xff\\xfe"),
    ],
)
def test_a_name_of_any_bytes(raw, written):
    assert readable(os.fsdecode(raw)) == written
    readable(os.fsdecode(raw)).encode("utf-8")
