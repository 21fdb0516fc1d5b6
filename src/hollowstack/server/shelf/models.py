"""Views of the shelf that people keep."""

from django.conf import settings
from django.db import models


class SavedView(models.Model):
    """Filters and an order of the shelf under a name, somebody's own."""

    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=60)
    asked = models.CharField(max_length=1000)
    """As the address of the shelf has it, behind the question mark."""

    class Meta:  # noqa: D106
        ordering = ["name", "pk"]
        constraints = [models.UniqueConstraint(fields=["by", "name"], name="one_view_a_name")]
