"""What is given out, by other programs: bags by the bagit package, METS by its schema, pictures by tifffile and Debian's tools."""

import hashlib
import subprocess
import zipfile
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

import bagit
import metsrw
import numpy as np
import pytest
import tifffile
from lxml import etree

from hollowstack.core.bind.codecs import encode_lossless
from hollowstack.core.bind.drawn_pages import Part, drawn_pages
from hollowstack.core.bind.layers.composing import pixels_of
from hollowstack.core.export import ExportOrder, ExportPage, export
from hollowstack.core.page.raster import Raster

CREATED = datetime(2026, 3, 1, 9, tzinfo=UTC)
_XLINK = """<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema" targetNamespace="http://www.w3.org/1999/xlink"
xmlns:xlink="http://www.w3.org/1999/xlink">{}</xs:schema>"""
_XSI = "http://www.w3.org/2001/XMLSchema-instance"
_GROUPS = ("simpleLink", "extendedLink", "locatorLink", "arcLink", "resourceLink", "titleLink", "emptyLink")
_ATTRIBUTES = ("type", "href", "role", "arcrole", "title", "show", "actuate", "label", "from", "to")


@pytest.fixture(scope="module")
def pages(tmp_path_factory: pytest.TempPathFactory) -> list[ExportPage]:
    folder = tmp_path_factory.mktemp("masters")
    page = next(drawn_pages("Letters", [Part("On the storm", ["The keeper wrote."])], "1"))
    colour = np.random.default_rng(1).integers(0, 255, (300, 200, 3), np.uint8)
    made = [
        ExportPage(page.image, page.ppi, page.reading, "i"),
        ExportPage(encode_lossless(Raster(colour), "colour"), (200, 100), None, "2"),
    ]
    named = []
    for number, one in enumerate(made):
        master = folder / str(number)
        master.write_bytes(bytes([number]) * 1000)
        sha256 = hashlib.sha256(master.read_bytes()).hexdigest()
        named.append(replace(one, master=master, master_name=f"100 %\u00fc {number}.tif", master_sha256=sha256))
    return named


def made(pages: list[ExportPage], folder: Path, form: str, **rest: object) -> Path:
    order = {"form": form, "title": "Box 27", "created": CREATED, "described": {"identifier": "SL/27"}, **rest}
    export(pages, folder / "made", ExportOrder.model_validate(order), "Hollow Stack")
    return folder / "made"


def unpacked(pages: list[ExportPage], folder: Path) -> Path:
    with zipfile.ZipFile(made(pages, folder, "bag")) as packed:
        packed.extractall(folder / "bag")
    return folder / "bag" / "Box 27"


def test_a_bag_is_valid_by_the_bagit_package(pages, tmp_path):
    """RFC 8493, checked by the Library of Congress's bagit."""
    bag = bagit.Bag(str(unpacked(pages, tmp_path)))
    assert bag.validate()
    assert bag.info["External-Identifier"] == "SL/27"
    (tmp_path / "bag" / "Box 27" / "data" / "Box 27.pdf").write_bytes(b"another")
    with pytest.raises(bagit.BagValidationError):
        bag.validate()


def test_mets_is_valid_by_its_schema_and_read_by_metsrw(pages, tmp_path):
    """METS's own schema as the metsrw package carries it; what it takes of XLink is written down here, for it lies elsewhere."""
    file = unpacked(pages, tmp_path) / "data" / "mets.xml"
    schema = (Path(metsrw.__file__).parent / "resources" / "mets.xsd").read_text()
    attributes = "".join(f'<xs:attribute name="{name}" type="xs:string"/>' for name in _ATTRIBUTES)
    inner = "".join(f'<xs:attribute ref="xlink:{name}"/>' for name in _ATTRIBUTES)
    attributes += "".join(f'<xs:attributeGroup name="{name}">{inner}</xs:attributeGroup>' for name in _GROUPS)
    (tmp_path / "xlink.xsd").write_text(_XLINK.format(attributes))
    parser = etree.XMLParser(no_network=True)
    parser.resolvers.add(_Here(tmp_path / "xlink.xsd"))
    rules = etree.XMLSchema(etree.fromstring(schema.encode(), parser, base_url=str(tmp_path / "mets.xsd")))
    tree = etree.parse(str(file))
    for typed in tree.xpath("//*[@xsi:type]", namespaces={"xsi": _XSI}):
        del typed.attrib[f"{{{_XSI}}}type"]  # a type of PREMIS, whose schema no package carries
    assert rules.validate(tree), rules.error_log
    read = metsrw.METSDocument.fromfile(str(file))
    assert {one.path for one in read.all_files() if one.path} >= {"Box 27.pdf"}
    space = {"m": "http://www.loc.gov/METS/", "p": "http://www.loc.gov/premis/v3"}
    told = dict(
        zip(
            tree.xpath("//p:objectIdentifierValue/text()", namespaces=space),
            tree.xpath("//p:messageDigest/text()", namespaces=space),
            strict=True,
        )
    )
    for name, digest in told.items():
        assert hashlib.sha256((file.parent / name).read_bytes()).hexdigest() == digest
    assert tree.xpath("//m:div[@TYPE='page']/@ORDERLABEL", namespaces=space) == ["i", "2"]
    assert len(tree.xpath("//p:event", namespaces=space)) == 3


class _Here(etree.Resolver):
    """Schemas that another one names by an address on a network."""

    def __init__(self, xlink: Path) -> None:
        self._xlink = xlink

    def resolve(self, system_url, public_id, context):
        return self.resolve_filename(str(self._xlink), context) if "xlink" in system_url else None


@pytest.mark.parametrize(("packing", "numbers"), [("Deflate", (8, 8)), ("LZW", (5, 5)), ("Group 4", (4, 4))])
def test_tiff_by_tifffile(pages, tmp_path, packing, numbers):
    """TIFF 6.0: compression 4 is T.6, 5 is LZW, 8 Deflate."""
    with tifffile.TiffFile(made(pages, tmp_path, "tiff", tiff_packing=packing)) as read:
        assert tuple(int(page.compression) for page in read.pages) == numbers
        assert [page.get_resolution("inch") for page in read.pages] == [(300, 300), (200, 100)]
        assert packing == "Group 4" or int(read.pages[1].predictor) == 2
        first, second = (page.asarray() for page in read.pages)
    assert np.array_equal(first.astype(bool), pixels_of(pages[0].image) > 0)
    if packing != "Group 4":
        assert np.array_equal(second, pixels_of(pages[1].image))


def test_jpeg_2000_by_openjpeg_and_its_resolution(pages, tmp_path):
    """By OpenJPEG through Pillow, which is built on it."""
    from PIL import Image

    with zipfile.ZipFile(made(pages, tmp_path, "jp2")) as packed:
        packed.extractall(tmp_path)
    with Image.open(tmp_path / "0002.jp2") as image:
        assert np.array_equal(np.asarray(image), pixels_of(pages[1].image))
        assert image.info["dpi"] == pytest.approx((200, 100), rel=0.005)


def test_word_processing_documents_are_sound_zip_files_of_their_kind(pages, tmp_path):
    """ISO/IEC 26300-3, 3.3: an OpenDocument file begins with its media type, not packed. ECMA-376-2: types of all parts."""
    odt = made(pages, tmp_path, "odt").read_bytes()
    assert odt[30:38] == b"mimetype"
    assert odt[38:77] == b"application/vnd.oasis.opendocument.text"
    with zipfile.ZipFile(made(pages, tmp_path, "docx")) as packed:
        assert packed.testzip() is None
        assert "[Content_Types].xml" in packed.namelist()


def test_the_bags_document_is_sound_by_qpdf(pages, tmp_path):
    document = unpacked(pages, tmp_path) / "data" / "Box 27.pdf"
    subprocess.run(["qpdf", "--check", str(document)], check=True, capture_output=True)
