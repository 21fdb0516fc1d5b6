"""Facts about a page, as numbers with units. Nothing here decides anything: ``core.plan`` does."""

from hollowstack.core.measure.content.rotation import SURE_OF_TURN
from hollowstack.core.measure.measurements import MEASURE_VERSION, Measurements
from hollowstack.core.measure.measuring import measure, turned_ppi

__all__ = ["MEASURE_VERSION", "SURE_OF_TURN", "Measurements", "measure", "turned_ppi"]
