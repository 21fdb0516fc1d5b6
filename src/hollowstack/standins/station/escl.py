"""eSCL messages as a station says and hears them.

Elements as in the Mopria Alliance's eSCL Technical Specification (version 2.97, from memory), in its two namespaces.
"""

from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException

from hollowstack.core.page.paper_path import offset_mm
from hollowstack.standins.station.device import MM, Device, Order, Unfit

SCAN = "http://schemas.hp.com/imaging/escl/2011/05/03"
PWG = "http://www.pwg.org/schemas/2010/12/sm"
STATION = "urn:x-hollowstack:station"
"""What eSCL has no element for: how often the start key was pressed, and slow feeding."""
FORMATS = ("image/jpeg", "image/tiff", "image/png", "application/pdf")
COLOURS = ("BlackAndWhite1", "Grayscale8", "RGB24")


def capabilities(device: Device, address: str) -> str:
    """ScannerCapabilities."""
    model = device.model
    parts = [
        "<pwg:Version>2.63</pwg:Version>",
        f"<pwg:MakeAndModel>{model.name}</pwg:MakeAndModel>",
        f"<pwg:SerialNumber>{device.serial}</pwg:SerialNumber>",
        f"<scan:UUID>{device.uuid}</scan:UUID>",
        f"<scan:AdminURI>{address}/</scan:AdminURI>",
    ]
    if model.platen:
        parts.append(f"<scan:Platen>{_inputs(device, 'PlatenInputCaps', model.platen)}</scan:Platen>")
    if model.feeder:
        sides = _inputs(device, "AdfSimplexInputCaps", model.feeder)
        if model.duplex:
            sides += _inputs(device, "AdfDuplexInputCaps", model.feeder)
        options = "<scan:AdfOption>DetectPaperLoaded</scan:AdfOption>"
        options += "<scan:AdfOption>Duplex</scan:AdfOption>" if model.duplex else ""
        slow = f'<station:SlowFeed xmlns:station="{STATION}">true</station:SlowFeed>' if model.slow_feed else ""
        parts.append(
            f"<scan:Adf>{sides}<scan:FeederCapacity>50</scan:FeederCapacity>{_justification(device)}"
            f"<scan:AdfOptions>{options}</scan:AdfOptions>{slow}</scan:Adf>"
        )
    return _document("ScannerCapabilities", "".join(parts))


def status(device: Device) -> str:
    """ScannerStatus."""
    jobs = "".join(
        f"<scan:JobInfo><pwg:JobUri>/eSCL/ScanJobs/{job.number}</pwg:JobUri>"
        f"<pwg:ImagesCompleted>{job.made}</pwg:ImagesCompleted><pwg:JobState>{job.state}</pwg:JobState>"
        f"<pwg:JobStateReasons><pwg:JobStateReason>{job.reason}</pwg:JobStateReason></pwg:JobStateReasons></scan:JobInfo>"
        for job in list(device.jobs.values())[-8:]
    )
    feeder = f"<scan:AdfState>{device.told_adf_state()}</scan:AdfState>" if device.model.feeder else ""
    body = f"<pwg:Version>2.63</pwg:Version><pwg:State>{device.state}</pwg:State>{feeder}<scan:Jobs>{jobs}</scan:Jobs>"
    body += f'<station:StartKey xmlns:station="{STATION}">{device.keys}</station:StartKey>'
    return _document("ScannerStatus", body)


def order_from(body: bytes) -> Order:
    """ScanSettings as asked for. Raises Unfit where they are not ScanSettings."""
    try:
        root = ElementTree.fromstring(body)
        region = root.find(f"{{{PWG}}}ScanRegions/{{{PWG}}}ScanRegion")
        if root.tag != f"{{{SCAN}}}ScanSettings" or region is None:
            raise Unfit
        media_type = root.findtext(f"{{{SCAN}}}DocumentFormatExt") or root.findtext(f"{{{PWG}}}DocumentFormat") or FORMATS[0]
        colour = root.findtext(f"{{{SCAN}}}ColorMode") or "RGB24"
        if media_type not in FORMATS or colour not in COLOURS:
            raise Unfit
        x, y, width, height = (
            int(region.findtext(f"{{{PWG}}}{name}") or 0) for name in ("XOffset", "YOffset", "Width", "Height")
        )
        return Order(
            source=root.findtext(f"{{{PWG}}}InputSource") or "Platen",
            duplex=root.findtext(f"{{{SCAN}}}Duplex") == "true",
            colour=colour,
            ppi=int(root.findtext(f"{{{SCAN}}}XResolution") or 300),
            media_type=media_type,
            region=(x, y, width, height),
            slow=root.findtext(f"{{{STATION}}}SlowFeed") == "true",
        )
    except (ElementTree.ParseError, DefusedXmlException, ValueError):
        raise Unfit from None


def _justification(device: Device) -> str:
    """Where the feeder holds the paper, as it is seen in the image."""
    left, _ = offset_mm(device.model.feeder_path, "feeder", (2.0, 2.0), (0.0, 0.0))
    return (
        f"<scan:Justification><pwg:XImagePosition>{('Left', 'Center', 'Right')[round(left)]}</pwg:XImagePosition>"
        "<pwg:YImagePosition>Top</pwg:YImagePosition></scan:Justification>"
    )


def _inputs(device: Device, name: str, size: tuple[float, float]) -> str:
    width, height = (round(mm * MM) for mm in size)
    colours = "".join(f"<scan:ColorMode>{mode}</scan:ColorMode>" for mode in COLOURS)
    formats = "".join(
        f"<pwg:DocumentFormat>{kind}</pwg:DocumentFormat><scan:DocumentFormatExt>{kind}</scan:DocumentFormatExt>"
        for kind in FORMATS
    )
    steps = "".join(
        f"<scan:DiscreteResolution><scan:XResolution>{ppi}</scan:XResolution><scan:YResolution>{ppi}</scan:YResolution>"
        "</scan:DiscreteResolution>"
        for ppi in device.model.resolutions
    )
    return (
        f"<scan:{name}><scan:MinWidth>16</scan:MinWidth><scan:MaxWidth>{width}</scan:MaxWidth>"
        f"<scan:MinHeight>16</scan:MinHeight><scan:MaxHeight>{height}</scan:MaxHeight>"
        "<scan:MaxScanRegions>1</scan:MaxScanRegions><scan:SettingProfiles><scan:SettingProfile>"
        f"<scan:ColorModes>{colours}</scan:ColorModes><scan:DocumentFormats>{formats}</scan:DocumentFormats>"
        "<scan:SupportedResolutions><scan:DiscreteResolutions>"
        f"{steps}</scan:DiscreteResolutions></scan:SupportedResolutions></scan:SettingProfile></scan:SettingProfiles>"
        f"<scan:MaxOpticalXResolution>{max(device.model.resolutions)}</scan:MaxOpticalXResolution></scan:{name}>"
    )


def _document(name: str, body: str) -> str:
    return f'<?xml version="1.0" encoding="UTF-8"?>\n<scan:{name} xmlns:scan="{SCAN}" xmlns:pwg="{PWG}">{body}</scan:{name}>'
