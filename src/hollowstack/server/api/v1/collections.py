"""Collections over HTTP: the tree that an archive keeps its papers in, and filing stacks under it."""

from ninja import Schema, Status
from pydantic import Field

from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.collections import tree
from hollowstack.server.collections.models import Collection
from hollowstack.server.ids import Id
from hollowstack.server.shelf import filing

router = Router(tags=["collections"])


class CollectionIn(Schema):
    """What is said of a collection."""

    name: str = Field(max_length=400)
    level: Collection.Level = Collection.Level.NONE
    identifier: str = Field("", max_length=80)
    parent: Id | None = None
    """In which it is; null at the top."""


class CollectionOut(Schema):
    """A collection where it stands in the tree."""

    id: int
    name: str
    level: Collection.Level
    identifier: str
    parent: int | None
    names: list[str]
    """From the top down to its own."""
    filed: int
    """Stacks in it, itself."""
    stacks: int
    """Stacks in it and in all that is under it."""


class FilingIn(Schema):
    """Stacks, and where they are to be filed."""

    stacks: list[Id] = Field(min_length=1, max_length=filing.MOST_AT_ONCE)
    collection: Id | None
    """Null for nowhere."""


class FiledOut(Schema):
    """How many stacks were filed."""

    filed: int


@router.get("/collections", response=list[CollectionOut])
def list_collections(request: Request) -> list[CollectionOut]:
    """The whole tree, each collection behind the one that it is in."""
    filed = filing.filed()
    branches = tree.tree()
    under: dict[int, int] = {}
    for branch in branches:
        number = filed.get(branch.collection.pk, 0)
        for pk in branch.ids:
            under[pk] = under.get(pk, 0) + number
    return [_out(branch, filed.get(branch.collection.pk, 0), under[branch.collection.pk]) for branch in branches]


@router.post("/collections", response={201: CollectionOut, 404: Problem})
def create_collection(request: Request, new: CollectionIn) -> Status[CollectionOut]:
    """Put a collection into the tree."""
    one = tree.create(_told(new))
    return Status(201, _out(tree.Branch(one, tree.names_of(one)), 0, 0))


@router.put("/collections/{int:collection_id}", response={204: None, 404: Problem})
def update_collection(request: Request, collection_id: int, told: CollectionIn) -> Status[None]:
    """Say a collection anew; in another one, it is moved there with all that is in it."""
    filing.change_collection(collection_id, _told(told))
    return Status(204, None)


@router.delete("/collections/{int:collection_id}", response={204: None, 404: Problem})
def delete_collection(request: Request, collection_id: int) -> Status[None]:
    """Take an empty collection out of the tree."""
    filing.remove_collection(collection_id)
    return Status(204, None)


@router.post("/filings", response={200: FiledOut, 404: Problem})
def file_stacks(request: Request, filing_in: FilingIn) -> FiledOut:
    """File stacks under a collection, or nowhere: all of them, or none where one is gone."""
    return FiledOut(filed=filing.file_under(filing_in.stacks, filing_in.collection))


def _told(said: CollectionIn) -> tree.Told:
    return tree.Told(said.name, said.level, said.identifier, said.parent)


def _out(branch: tree.Branch, filed: int, stacks: int) -> CollectionOut:
    one = branch.collection
    return CollectionOut(
        id=one.pk, name=one.name, level=Collection.Level(one.level), identifier=one.identifier, parent=one.parent_id,
        names=list(branch.names), filed=filed, stacks=stacks,
    )  # fmt: skip
