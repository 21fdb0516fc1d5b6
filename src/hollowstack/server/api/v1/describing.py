"""Descriptions of many documents to come over HTTP: as a table, and by a file of it."""

from django.http import HttpResponse
from django.utils.http import content_disposition_header
from ninja import Schema
from pydantic import Base64Bytes, BaseModel, Field

from hollowstack.core.bind.description import STATEMENTS, Described
from hollowstack.core.page.name_patterns import file_name
from hollowstack.server.api.v1.problems import Problem
from hollowstack.server.api.v1.routing import Request, Router
from hollowstack.server.documents import describing
from hollowstack.server.documents.drafts import DraftDocument, draft_of
from hollowstack.server.stacks.models import Stack

router = Router(tags=["documents"])


class ToDescribeOut(BaseModel):
    """A document to come."""

    number: int
    """From 1."""
    page: int
    """Which it begins with, by which it is known."""
    first_page: int
    """The place of that in the stack, from 1."""
    pages: int
    title: str
    """As it will be."""
    said: DraftDocument
    """What somebody has said of it."""
    clean: str | None
    """Key of its first page, corrected."""


class DescriptionsOut(Schema):
    """The documents that a stack's pages would make, and what can be said of each."""

    stack: Described
    """What is said of all of them together."""
    otherwise: Described
    """What of that holds for each of them where nothing is said of it alone."""
    documents: list[ToDescribeOut]
    statements: list[str]
    """Names of what can be said, in the order of the table."""


class TableIn(Schema):
    """A table of descriptions as a file."""

    csv: Base64Bytes = Field(max_length=7_000_000)


class DifferenceOut(BaseModel):
    """What a line changes."""

    name: str
    before: str
    after: str


class PlannedOut(BaseModel):
    """A line of a file, and what it changes."""

    line: int
    """In the file, from 1; the head is 1."""
    document: int
    """Which document it is of; 0 where it names none that there is, or the stack."""
    whole: bool
    """Whether it is of the stack: ``title`` is that."""
    title: str
    changes: list[DifferenceOut]
    refused: str
    """Why it is not taken; empty where it is."""


class TablePlan(Schema):
    """What a file changes, line by line."""

    lines: list[PlannedOut]
    left: list[str]
    """Columns that mean nothing here."""


@router.get("/stacks/{int:stack_id}/descriptions", response={200: DescriptionsOut, 404: Problem})
def get_descriptions(request: Request, stack_id: int) -> DescriptionsOut:
    """The documents that a stack's pages would make now, with what is said of each."""
    stack = Stack.objects.get(pk=stack_id)
    draft, found = draft_of(stack.pk), [_document(one) for one in describing.to_describe(stack)]
    return DescriptionsOut(
        stack=draft.stack,
        otherwise=draft.for_parts(alone=len(found) == 1),
        documents=found,
        statements=[*STATEMENTS, "language"],
    )


@router.get("/stacks/{int:stack_id}/descriptions.csv", response={200: "text/csv", 404: Problem})
def get_description_table(request: Request, stack_id: int) -> HttpResponse:
    """The same as a file to be changed and given back."""
    stack = Stack.objects.get(pk=stack_id)
    response = HttpResponse(describing.table_file(stack), content_type="text/csv; charset=utf-8")
    name = file_name(f"{stack.name}, descriptions", ".csv")
    response.headers["Content-Disposition"] = str(content_disposition_header(as_attachment=True, filename=name))
    return response


@router.post("/stacks/{int:stack_id}/descriptions/plan", response={200: TablePlan, 404: Problem})
def plan_descriptions(request: Request, stack_id: int, table: TableIn) -> TablePlan:
    """What a file would change; nothing is changed."""
    return _plan(describing.planned(Stack.objects.get(pk=stack_id), table.csv))


@router.post("/stacks/{int:stack_id}/descriptions", response={200: TablePlan, 404: Problem})
def take_descriptions(request: Request, stack_id: int, table: TableIn) -> TablePlan:
    """Take over what a file says, but for lines that are refused."""
    return _plan(describing.take(Stack.objects.get(pk=stack_id), table.csv))


def _document(one: describing.ToDescribe) -> ToDescribeOut:
    first = one.pages[0]
    return ToDescribeOut(
        number=one.number,
        page=first.pk,
        first_page=one.first_page,
        pages=len(one.pages),
        title=one.title,
        said=one.said,
        clean=first.rendered_id,
    )


def _plan(plan: describing.Plan) -> TablePlan:
    lines = [
        PlannedOut(
            line=one.line,
            document=one.document,
            title=one.title,
            changes=[DifferenceOut(name=name, before=before, after=after) for name, before, after in one.changes],
            refused=one.refused,
            whole=one.whole,
        )
        for one in plan.lines
    ]
    return TablePlan(lines=lines, left=list(plan.left))
