"""eSCL messages against their documented elements.

Source: eSCL Technical Specification, version 2.97 (Mopria Alliance), from memory, as are the two namespaces; the units
and names of pwg elements are those of the PWG Semantic Model Schema (PWG 5108.02). No real device was at hand.
"""

import time

import pytest
from defusedxml import ElementTree

from hollowstack.server.capture.escl import ScanSettings
from hollowstack.server.capture.escl.messages import read_capabilities, read_status, write_settings
from hollowstack.standins.station import escl as simulated
from hollowstack.standins.station.device import MODELS, Device

ESCL = "{http://schemas.hp.com/imaging/escl/2011/05/03}"
PWG = "{http://www.pwg.org/schemas/2010/12/sm}"

# Written by hand after the specification's elements; not made by the simulated station.
CAPABILITIES = b"""<?xml version="1.0" encoding="UTF-8"?>
<scan:ScannerCapabilities xmlns:scan="http://schemas.hp.com/imaging/escl/2011/05/03" xmlns:pwg="http://www.pwg.org/schemas/2010/12/sm">
 <pwg:Version>2.6</pwg:Version><pwg:MakeAndModel>Bench Scanner 3</pwg:MakeAndModel>
 <scan:Platen><scan:PlatenInputCaps>
  <scan:MinWidth>8</scan:MinWidth><scan:MaxWidth>2550</scan:MaxWidth><scan:MinHeight>8</scan:MinHeight><scan:MaxHeight>3508</scan:MaxHeight>
  <scan:SettingProfiles><scan:SettingProfile>
   <scan:ColorModes><scan:ColorMode>Grayscale8</scan:ColorMode><scan:ColorMode>RGB24</scan:ColorMode></scan:ColorModes>
   <scan:DocumentFormats><pwg:DocumentFormat>image/jpeg</pwg:DocumentFormat></scan:DocumentFormats>
   <scan:SupportedResolutions><scan:DiscreteResolutions>
    <scan:DiscreteResolution><scan:XResolution>600</scan:XResolution><scan:YResolution>600</scan:YResolution></scan:DiscreteResolution>
    <scan:DiscreteResolution><scan:XResolution>300</scan:XResolution><scan:YResolution>300</scan:YResolution></scan:DiscreteResolution>
   </scan:DiscreteResolutions></scan:SupportedResolutions>
  </scan:SettingProfile></scan:SettingProfiles>
 </scan:PlatenInputCaps></scan:Platen>
</scan:ScannerCapabilities>"""
STATUS = b"""<?xml version="1.0"?>
<scan:ScannerStatus xmlns:scan="http://schemas.hp.com/imaging/escl/2011/05/03" xmlns:pwg="http://www.pwg.org/schemas/2010/12/sm">
 <pwg:Version>2.6</pwg:Version><pwg:State>Processing</pwg:State><scan:AdfState>ScannerAdfJam</scan:AdfState>
 <scan:Jobs><scan:JobInfo><pwg:JobUri>/eSCL/ScanJobs/893</pwg:JobUri>
  <pwg:ImagesCompleted>14</pwg:ImagesCompleted><pwg:JobState>Aborted</pwg:JobState></scan:JobInfo></scan:Jobs>
</scan:ScannerStatus>"""


def test_what_a_device_says_of_itself_is_understood():
    can = read_capabilities(CAPABILITIES)
    assert (can.name, can.feeder, can.two_sided) == ("Bench Scanner 3", None, False)
    assert can.platen is not None
    # Sizes are in 1/300 inch: 2550 x 3508 is 8.5 x 11.69 inches.
    assert (can.platen.width_mm, can.platen.height_mm) == (215.9, 297.0)
    assert (can.platen.resolutions, can.platen.colours) == ((300, 600), ("Grayscale8", "RGB24"))


FEEDER = b"""<?xml version="1.0"?>
<scan:ScannerCapabilities xmlns:scan="http://schemas.hp.com/imaging/escl/2011/05/03" xmlns:pwg="http://www.pwg.org/schemas/2010/12/sm">
 <pwg:Version>2.6</pwg:Version><pwg:MakeAndModel>Bench Feeder</pwg:MakeAndModel>
 <scan:Adf>
  <scan:AdfSimplexInputCaps><scan:MaxWidth>2550</scan:MaxWidth><scan:MaxHeight>4200</scan:MaxHeight></scan:AdfSimplexInputCaps>
  <scan:FeederCapacity>50</scan:FeederCapacity>
  <scan:Justification><pwg:XImagePosition>Right</pwg:XImagePosition><pwg:YImagePosition>Top</pwg:YImagePosition></scan:Justification>
 </scan:Adf>
</scan:ScannerCapabilities>"""


def test_where_a_feeder_holds_its_paper_is_understood():
    """ADF justification, elements from memory; the values are the Semantic Model's Left, Center and Right."""
    assert read_capabilities(FEEDER).guides == "right"
    for said, guides in ((b"Left", "left"), (b"Center", "middle"), (b"", ""), (b"Elsewhere", "")):
        assert read_capabilities(FEEDER.replace(b">Right<", b">" + said + b"<")).guides == guides
    assert read_capabilities(CAPABILITIES).guides == ""
    assert not read_capabilities(FEEDER).slow_feed


def test_how_a_device_stands_is_understood():
    status = read_status(STATUS)
    assert (status.state, status.feeder, status.jobs) == ("Processing", "ScannerAdfJam", {"893": "Aborted"})
    assert status.made == {"893": 14}


@pytest.mark.parametrize(("said", "made"), [(b" 7 ", 7), (b"", 0), (b"-3", 0), (b"many", 0), (b"9" * 400, 0)])
def test_how_many_images_a_job_has_made_is_a_number_or_not_told(said, made):
    assert read_status(STATUS.replace(b">14<", b">" + said + b"<")).made == {"893": made}


def test_what_is_asked_for_uses_the_documented_elements():
    asked = ElementTree.fromstring(
        write_settings(ScanSettings("Feeder", True, "Grayscale8", 300, "image/jpeg", (0.0, 0.0, 215.9, 279.4)))
    )
    assert asked.tag == f"{ESCL}ScanSettings"
    region = asked.find(f"{PWG}ScanRegions/{PWG}ScanRegion")
    assert region is not None
    assert {child.tag.removeprefix(PWG): child.text for child in region} == {
        "Height": "3300", "Width": "2550", "XOffset": "0", "YOffset": "0", "ContentRegionUnits": "escl:ThreeHundredthsOfInches",
    }  # fmt: skip
    said = {child.tag: child.text for child in asked}
    assert said[f"{PWG}InputSource"] == "Feeder"
    assert said[f"{PWG}DocumentFormat"] == said[f"{ESCL}DocumentFormatExt"] == "image/jpeg"
    assert (said[f"{ESCL}XResolution"], said[f"{ESCL}YResolution"]) == ("300", "300")
    assert (said[f"{ESCL}ColorMode"], said[f"{ESCL}Duplex"]) == ("Grayscale8", "true")


def test_the_simulated_station_says_what_the_specification_asks_for():
    for model in MODELS:
        device = Device(model, time.sleep, time.monotonic)
        can = ElementTree.fromstring(simulated.capabilities(device, "http://127.0.0.1:1"))
        assert can.tag == f"{ESCL}ScannerCapabilities"
        assert can.find(f"{PWG}Version") is not None
        assert can.find(f"{PWG}MakeAndModel") is not None
        for caps in ("PlatenInputCaps", "AdfSimplexInputCaps", "AdfDuplexInputCaps"):
            for found in can.iter(f"{ESCL}{caps}"):
                for name in ("MinWidth", "MaxWidth", "MinHeight", "MaxHeight", "SettingProfiles"):
                    assert found.find(f"{ESCL}{name}") is not None, (model.name, caps, name)
        status = ElementTree.fromstring(simulated.status(device))
        assert status.findtext(f"{PWG}State") in {"Idle", "Processing", "Testing", "Stopped", "Down"}
