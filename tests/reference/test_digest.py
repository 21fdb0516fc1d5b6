"""SHA-256 as published: FIPS 180-4, and the example values NIST gives for it (\u201cSHA_All.pdf\u201d: \u201cabc\u201d and two blocks)."""

import io
from pathlib import Path

import pytest

from hollowstack.core.page.digest import sha256_of
from hollowstack.server.storage.masters import keep_master
from hollowstack.server.storage.places import master_path
from hollowstack.server.storage.spools import spooled

EXAMPLES = {
    b"abc": "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad",
    b"abcdbcdecdefdefgefghfghighijhijkijkljklmklmnlmnomnopnopq": (
        "248d6a61d20638b8e5c026930c3e6039a33ce45964ff2167f6ecedd419db06c1"
    ),
}


@pytest.mark.parametrize("content", EXAMPLES)
def test_a_file_is_known_by_its_sha_256(tmp_path: Path, content):
    (tmp_path / "file").write_bytes(content)
    assert sha256_of(tmp_path / "file") == EXAMPLES[content]


@pytest.mark.parametrize("content", EXAMPLES)
def test_a_master_is_kept_under_its_sha_256_and_never_written_again(content):
    with spooled(io.BytesIO(content)) as spool:
        sha256, size, _ = keep_master(spool)
    assert (sha256, size) == (EXAMPLES[content], len(content))
    assert master_path(sha256).read_bytes() == content
    assert master_path(sha256).stat().st_mode & 0o222 == 0
