"""How the pages of a stack are made for a profile of binding."""

from hollowstack.core.measure import Measurements
from hollowstack.core.plan.plan import Plan
from hollowstack.core.settings.override import Override
from hollowstack.core.settings.profile import Profile, packed_as
from hollowstack.core.settings.treatment import Treatment
from hollowstack.server.stacks.models import Page
from hollowstack.server.stacks.planning import decide

_CARRIED_OVER = {"lossless", "layers", "jpeg_quality"}
"""Settings that a plan has as the treatment has them: where nothing else differs, no plan is made anew."""


def packed_plan(page: Page, treatment: Treatment, profile: Profile) -> Plan | None:
    """By what a page is made for a profile; None where it is the clean page as the stack has it."""
    packed = packed_as(treatment, profile)
    if packed == treatment:
        return None
    differing = {name for name in Treatment.model_fields if getattr(packed, name) != getattr(treatment, name)}
    if differing <= _CARRIED_OVER:
        return Plan.model_validate(page.plan).model_copy(update={name: getattr(packed, name) for name in differing})
    assert page.measured is not None
    found = Measurements.model_validate(page.measured.made["measurements"])
    decided = decide(page, packed, found, Override.model_validate(page.override))
    return decided.model_copy(update={"aside": None})
