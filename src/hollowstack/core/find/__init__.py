"""Finding words again: how they are compared, what a question means, where on a page it is answered."""

from hollowstack.core.find.dates import WrittenDate, written_dates
from hollowstack.core.find.identifiers import (
    IdentifierError,
    WrittenIdentifier,
    checked,
    pattern_of,
    written_identifiers,
)
from hollowstack.core.find.marking import Answer, Marked, answer_of, is_answered_in
from hollowstack.core.find.nearly import nearly
from hollowstack.core.find.question import NO_WORDS, Question, QuestionError, question_of
from hollowstack.core.find.tokens import tokens
from hollowstack.core.find.written import Written, joined, written
from hollowstack.core.find.years import Years, years_of

__all__ = [
    "NO_WORDS",
    "Answer",
    "IdentifierError",
    "Marked",
    "Question",
    "QuestionError",
    "Written",
    "WrittenDate",
    "WrittenIdentifier",
    "Years",
    "answer_of",
    "checked",
    "is_answered_in",
    "joined",
    "nearly",
    "pattern_of",
    "question_of",
    "tokens",
    "written",
    "written_dates",
    "written_identifiers",
    "years_of",
]
