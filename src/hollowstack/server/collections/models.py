"""A place in the tree of collections."""

from django.db import models


class Collection(models.Model):
    """A fonds, a series, a box, a folder, or whatever else people part their papers into.

    Source: levels of description of ISAD(G), 2nd edition, 3.1.4; box and folder are common practice, no source.
    """

    class Level(models.TextChoices):
        """``NONE``: nobody has said."""

        NONE = ""
        FONDS = "fonds"
        SERIES = "series"
        BOX = "box"
        FOLDER = "folder"

    parent = models.ForeignKey("self", null=True, on_delete=models.PROTECT, related_name="parts")
    name = models.CharField(max_length=200)
    level = models.CharField(max_length=10, choices=Level.choices, blank=True)
    identifier = models.CharField(max_length=80, blank=True)
    path = models.CharField(max_length=200, blank=True, db_index=True)
    """The ids from the top down to its own, as /1/4/: all that lies under it begins so."""
