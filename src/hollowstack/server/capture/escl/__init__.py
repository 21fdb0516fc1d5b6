"""The eSCL protocol as its client: knows neither Django nor any particular station."""

from hollowstack.server.capture.escl.client import EsclClient, StationError
from hollowstack.server.capture.escl.messages import Capabilities, ScanSettings, SourceCapabilities, Status, job_number

__all__ = ["Capabilities", "EsclClient", "ScanSettings", "SourceCapabilities", "StationError", "Status", "job_number"]
