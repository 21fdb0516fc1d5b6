"""People's roles, invitations, tokens, and the record."""

from django.conf import settings
from django.db import models

from hollowstack.server.accounts.rights import Role

_ROLES = [(role.value, role.value) for role in Role]


class Person(models.Model):
    """What a user is here."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="person")
    role = models.CharField(max_length=20, choices=_ROLES)
    sessions = models.PositiveIntegerField(default=0)
    """Sessions begun under another number than this have ended."""


class Invitation(models.Model):
    """A link by which somebody becomes a person here; only its digest is kept."""

    digest = models.CharField(max_length=64, unique=True)
    role = models.CharField(max_length=20, choices=_ROLES)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    ends_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)


class Token(models.Model):
    """What a script signs in with; only its digest is kept."""

    digest = models.CharField(max_length=64, unique=True)
    name = models.CharField(max_length=80)
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="tokens")
    role = models.CharField(max_length=20, choices=_ROLES)
    """At most this is allowed to it, and never more than to its person."""
    made_at = models.DateTimeField(auto_now_add=True)
    ends_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    withdrawn_at = models.DateTimeField(null=True)


class Entry(models.Model):
    """One line of the record: never changed, and chained to the one before by its digest."""

    at = models.DateTimeField()
    who = models.CharField(max_length=150, blank=True)
    what = models.CharField(max_length=40)
    about = models.CharField(max_length=300, blank=True)
    before = models.CharField(max_length=64, blank=True)
    """Digest of the line before."""
    digest = models.CharField(max_length=64)

    class Meta:  # noqa: D106
        ordering = ["pk"]
