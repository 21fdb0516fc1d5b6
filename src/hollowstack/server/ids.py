"""Numbers of rows, as they are named from outside."""

from typing import Annotated

from pydantic import Field

Id = Annotated[int, Field(ge=1, lt=2**63)]
"""Of a row of the database, which can hold no larger ones."""
