"""Saved versions of treatments."""

from django.conf import settings as django_settings
from django.db import models


class TreatmentVersion(models.Model):
    """A treatment as it was saved once. It never changes: whoever saves again makes the next version."""

    name = models.CharField(max_length=80)
    version = models.PositiveIntegerField()
    by = models.ForeignKey(django_settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField(auto_now_add=True)
    settings = models.JSONField()
    taken_back = models.BooleanField(default=False)
    """No longer offered; stacks that were given it keep it."""

    class Meta:  # noqa: D106
        ordering = ["name", "version"]
        constraints = [models.UniqueConstraint(fields=["name", "version"], name="one_version_a_number")]
