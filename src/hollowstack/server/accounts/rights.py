"""What each role may do: one table, asked by everything that answers."""

from enum import StrEnum


class Right(StrEnum):
    """Something that a person may be allowed."""

    LOOK = "look"
    """See stacks, pages and documents, and fetch them."""
    INSPECT = "inspect"
    """Judge what is found, draw samples, sign, and mark pages to be captured again."""
    WORK = "work"
    """Everything that is done with pages: capture, take in, arrange, correct, read, bind, delete, take back."""
    STATIONS = "stations"
    """Say at which addresses stations are: the server itself goes there."""
    DESTINATIONS = "destinations"
    """Say where documents go: the server itself goes there, with passwords that it keeps."""
    PEOPLE = "people"
    """Make people, give them roles, take them away; read the record."""


class Role(StrEnum):
    """What a person is here."""

    READER = "reader"
    INSPECTOR = "inspector"
    TECHNICIAN = "technician"
    ADMINISTRATOR = "administrator"


RIGHTS: dict[Role, frozenset[Right]] = {
    Role.READER: frozenset({Right.LOOK}),
    Role.INSPECTOR: frozenset({Right.LOOK, Right.INSPECT}),
    Role.TECHNICIAN: frozenset({Right.LOOK, Right.INSPECT, Right.WORK}),
    Role.ADMINISTRATOR: frozenset(Right),
}

OPERATIONS: dict[str, Right | None] = {
    # None: open to everybody, signed in or not.
    "getSession": None,
    "signIn": None,
    "acceptInvitation": None,
    "getShared": None,
    "openShared": None,
    "getSharedPage": None,
    "getSharedFile": None,
    "signOut": Right.LOOK,
    "changePassword": Right.LOOK,
    "endSessions": Right.LOOK,
    "listTokens": Right.LOOK,
    "createToken": Right.LOOK,
    "withdrawToken": Right.LOOK,
    "listPeople": Right.PEOPLE,
    "updatePerson": Right.PEOPLE,
    "endSessionsOf": Right.PEOPLE,
    "createInvitation": Right.PEOPLE,
    "listRecord": Right.PEOPLE,
    "getShelf": Right.LOOK,
    "listShelfViews": Right.LOOK,
    "keepShelfView": Right.LOOK,
    "forgetShelfView": Right.LOOK,
    "listCollections": Right.LOOK,
    "createCollection": Right.WORK,
    "updateCollection": Right.WORK,
    "deleteCollection": Right.WORK,
    "fileStacks": Right.WORK,
    "closeStacks": Right.WORK,
    "getDescriptions": Right.LOOK,
    "getDescriptionTable": Right.LOOK,
    "listShares": Right.WORK,
    "createShare": Right.WORK,
    "withdrawShare": Right.WORK,
    "getOffers": Right.LOOK,
    "getPapers": Right.LOOK,
    "listRecipients": Right.WORK,
    "tryNamePattern": Right.LOOK,
    "listIdentifierPatterns": Right.LOOK,
    "tryIdentifierPattern": Right.LOOK,
    "keepIdentifierPattern": Right.WORK,
    "deleteIdentifierPattern": Right.WORK,
    "planDescriptions": Right.WORK,
    "takeDescriptions": Right.WORK,
    "getTopCollection": Right.LOOK,
    "getCollection": Right.LOOK,
    "getStackCollection": Right.LOOK,
    "getManifest": Right.LOOK,
    "searchDocument": Right.LOOK,
    "searchEverything": Right.LOOK,
    "listSearchFilters": Right.LOOK,
    "listStacks": Right.LOOK,
    "createStack": Right.WORK,
    "getStack": Right.LOOK,
    "updateStack": Right.WORK,
    "deleteStack": Right.WORK,
    "putViewing": Right.LOOK,
    "listPages": Right.LOOK,
    "listFindings": Right.LOOK,
    "getPlan": Right.LOOK,
    "getSigning": Right.LOOK,
    "createSample": Right.INSPECT,
    "putLook": Right.INSPECT,
    "deleteLook": Right.INSPECT,
    "putDecision": Right.INSPECT,
    "createSignature": Right.INSPECT,
    "reopenStack": Right.INSPECT,
    "getRecordJson": Right.LOOK,
    "getRecordPdf": Right.LOOK,
    "listFiles": Right.LOOK,
    "listQuotas": Right.LOOK,
    "getPage": Right.LOOK,
    "listLanguages": Right.LOOK,
    "listProposedLanguages": Right.LOOK,
    "getSeparatorSheet": Right.LOOK,
    "createBatch": Right.WORK,
    "putFile": Right.WORK,
    "getFile": Right.LOOK,
    "announceUploads": Right.WORK,
    "listUploads": Right.LOOK,
    "headUpload": Right.WORK,
    "createUpload": Right.WORK,
    "describeUploads": Right.WORK,
    "appendToUpload": Right.WORK,
    "takeInUpload": Right.WORK,
    "deleteUpload": Right.WORK,
    # Which changes an inspector may make is told in ``CHANGES``.
    "createChange": Right.INSPECT,
    "getTextFigures": Right.LOOK,
    "listDoubts": Right.LOOK,
    "getPageWords": Right.LOOK,
    "listAlike": Right.LOOK,
    "findPages": Right.LOOK,
    "findPlaces": Right.LOOK,
    "getWordList": Right.LOOK,
    "getHistory": Right.LOOK,
    "undoChange": Right.WORK,
    "redoChange": Right.WORK,
    "calibrateDevice": Right.WORK,
    "checkStation": Right.INSPECT,
    "getStationQuality": Right.LOOK,
    "getQualityTarget": Right.LOOK,
    "previewPage": Right.LOOK,
    "showPageDifference": Right.LOOK,
    "listTreatments": Right.LOOK,
    "getTreatment": Right.LOOK,
    "getTreatmentForm": Right.LOOK,
    "createTreatment": Right.WORK,
    "withdrawTreatment": Right.WORK,
    "restoreTreatment": Right.WORK,
    "listDocuments": Right.LOOK,
    "getBinding": Right.LOOK,
    "listParts": Right.LOOK,
    "getPart": Right.LOOK,
    "getCopyPage": Right.LOOK,
    "listExportForms": Right.LOOK,
    "getAllDocuments": Right.LOOK,
    "changeBinding": Right.WORK,
    "bindStack": Right.WORK,
    "makeCopies": Right.WORK,
    "exportStack": Right.WORK,
    "getDocument": Right.LOOK,
    "deleteDocument": Right.WORK,
    "getDocumentFile": Right.LOOK,
    "getDocumentText": Right.LOOK,
    "getStackText": Right.LOOK,
    "listDestinations": Right.LOOK,
    "createDestination": Right.DESTINATIONS,
    "putDestination": Right.DESTINATIONS,
    "deleteDestination": Right.DESTINATIONS,
    "tryDestination": Right.DESTINATIONS,
    "listPlaceholders": Right.LOOK,
    "previewDispatch": Right.LOOK,
    "dispatchDocuments": Right.WORK,
    "listDeliveries": Right.LOOK,
    "steerDelivery": Right.WORK,
    "checkReceipts": Right.WORK,
    "getReceiptsJson": Right.LOOK,
    "getReceiptsCsv": Right.LOOK,
    "getDelivered": Right.LOOK,
    "retryPage": Right.WORK,
    "retryStack": Right.WORK,
    "retryEverything": Right.WORK,
    "getBin": Right.LOOK,
    "restoreStack": Right.WORK,
    "restoreDocument": Right.WORK,
    "listStations": Right.LOOK,
    "listFoundStations": Right.LOOK,
    "addFoundStation": Right.STATIONS,
    "changeStation": Right.STATIONS,
    "markStation": Right.WORK,
    "createStation": Right.STATIONS,
    "deleteStation": Right.STATIONS,
    "keepPaperPath": Right.WORK,
    "tryTestSheet": Right.WORK,
    "getTestSheet": Right.LOOK,
    "beginPrescan": Right.WORK,
    "listFrames": Right.WORK,
    "startRun": Right.WORK,
    "listRuns": Right.LOOK,
    "steerRun": Right.WORK,
    "markSingleSheets": Right.WORK,
    "getRunImage": Right.LOOK,
    "listPaperSizes": Right.LOOK,
    "listOrderSlips": Right.LOOK,
    "createOrderSlip": Right.WORK,
    "putSlipOrder": Right.WORK,
    "putOrderSlip": Right.WORK,
    "copyOrderSlip": Right.WORK,
    "tryOrderSlip": Right.WORK,
    "deleteOrderSlip": Right.WORK,
    "startOrderSlip": Right.WORK,
    "putWaitingSlip": Right.WORK,
    "deleteWaitingSlip": Right.WORK,
    "getWatch": Right.LOOK,
    "putWatch": Right.WORK,
    # What is not of the framework: it asks the same door.
    "watchStack": Right.LOOK,
    "getThumb": Right.LOOK,
    "getImageInformation": Right.LOOK,
    "getImage": Right.LOOK,
    "getPrescan": Right.WORK,
}
"""What each operation of the API asks for."""

CHANGES: dict[str, Right] = {"rescan": Right.INSPECT, "judge": Right.INSPECT}
"""What changes of a stack ask for, by what they do; every other one asks for ``WORK``."""

WORDS: dict[Right, str] = {
    Right.LOOK: "everybody who is signed in",
    Right.INSPECT: "inspectors, technicians and administrators",
    Right.WORK: "technicians and administrators",
    Right.STATIONS: "administrators",
    Right.DESTINATIONS: "administrators",
    Right.PEOPLE: "administrators",
}
"""Who has a right, for a sentence."""
