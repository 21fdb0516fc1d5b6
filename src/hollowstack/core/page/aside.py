"""Why a page is held out of the output."""

from typing import Literal

AsideReason = Literal["blank", "by hand", "cover sheet", "duplicate", "rejected", "separator"]
SEPARATOR_SHEET: AsideReason = "separator"
COVER_SHEET: AsideReason = "cover sheet"
