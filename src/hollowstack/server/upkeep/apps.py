"""Has the checks of the settings known to Django."""

from django.apps import AppConfig


class UpkeepConfig(AppConfig):
    """The room that keeps things right."""

    name = "hollowstack.server.upkeep"

    def ready(self) -> None:
        """Register the checks."""
        from hollowstack.server.upkeep import checks  # noqa: F401, imported for what it registers
