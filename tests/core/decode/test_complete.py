"""A file that is still being written is told from one that is whole, at every length."""

import numpy as np
import pikepdf
import pytest
from PIL import Image

from hollowstack.core.decode.complete import is_complete

PAGE = Image.fromarray(np.random.default_rng(1).integers(0, 255, (80, 60), dtype=np.uint8))


def written(path):
    if path.suffix == ".pdf":
        pdf = pikepdf.Pdf.new()
        pdf.add_blank_page()
        pdf.save(path)
    elif path.suffix == ".tif":
        PAGE.save(path, save_all=True, append_images=[PAGE, PAGE])
    elif path.suffix == ".zip":
        import zipfile

        with zipfile.ZipFile(path, "w") as archive:
            archive.writestr("a.txt", "a")
    else:
        PAGE.save(path)
    return path


@pytest.mark.parametrize("name", ["a.jpg", "a.png", "a.pdf", "a.tif", "a.webp", "a.bmp", "a.zip"])
def test_complete_at_its_end_and_not_before(name, tmp_path):
    path = written(tmp_path / name)
    data = path.read_bytes()
    assert is_complete(path)
    for share in (0.0, 0.2, 0.5, 0.9):
        path.write_bytes(data[: int(len(data) * share)])
        assert not is_complete(path), share


def test_what_is_no_image_is_not_waited_for(tmp_path):
    (tmp_path / "notes.txt").write_text("Fog till noon.")
    assert is_complete(tmp_path / "notes.txt")
