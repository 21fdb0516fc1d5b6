"""Documents in other forms than PDF: texts to be edited, tables, pictures, and packages for archives."""

from hollowstack.core.export.forms import FORMS, ExportForm, ExportOrder, ExportPage
from hollowstack.core.export.writing import Exported, export

__all__ = ["FORMS", "ExportForm", "ExportOrder", "ExportPage", "Exported", "export"]
