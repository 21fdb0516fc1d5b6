"""What has to be known of a place to send something there, by its kind."""

from typing import Annotated, Literal, Self

from email_validator import EmailNotValidError, validate_email
from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints, model_validator

Line = Annotated[str, StringConstraints(strip_whitespace=True, max_length=300, pattern=r"^[^\x00-\x1f\x7f]*$")]
Text = Annotated[Line, StringConstraints(min_length=1)]
Port = Annotated[int, Field(ge=1, le=65535)]


def _address(text: str) -> str:
    try:
        return validate_email(text, check_deliverability=False).normalized
    except EmailNotValidError as error:
        raise ValueError(f"{text or 'an empty line'} is no address of mail: {error}") from None


Address = Annotated[Line, AfterValidator(_address)]
"""Source: RFC 5322, 3.4.1, as the package email-validator reads it."""


class _Place(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class FolderPlace(_Place):
    """A folder of the machine that the server runs on, or one that is mounted there."""

    kind: Literal["folder"] = "folder"
    path: Text = Field(title="Folder")


class SftpPlace(_Place):
    """A folder on another machine, by SFTP."""

    kind: Literal["sftp"] = "sftp"
    host: Text = Field(title="Machine")
    port: Port = Field(22, title="Port")
    user: Text = Field(title="Signed in as")
    folder: Line = Field("", title="Folder")
    host_key: Line = Field("", title="Key of the machine")
    """As OpenSSH writes a public key; taken over when the place is first tried."""


class StoragePlace(_Place):
    """A bucket of an object storage that speaks S3."""

    kind: Literal["storage"] = "storage"
    endpoint: Text = Field(title="Address")
    bucket: Text = Field(title="Bucket")
    prefix: Line = Field("", title="Before each name")
    region: Line = Field("us-east-1", title="Region")
    access_key: Text = Field(title="Access key")


class MailPlace(_Place):
    """People, by e-mail."""

    kind: Literal["mail"] = "mail"
    host: Text = Field(title="Mail server")
    port: Port = Field(587, title="Port")
    security: Literal["starttls", "tls", "none"] = Field("starttls", title="Secured by")
    user: Line = Field("", title="Signed in as")
    sender: Address = Field(title="From")
    recipients: tuple[Address, ...] = Field((), title="To")
    subject: Line = Field("{title}", title="Subject")
    text: Annotated[str, StringConstraints(max_length=4000)] = Field("Attached: {title}, {pages} pages.", title="Text")
    limit_mb: Annotated[float, Field(gt=0, le=1000)] = Field(20.0, title="Largest message, MB")

    @model_validator(mode="after")
    def _secured(self) -> Self:
        if self.security == "none" and self.user:
            raise ValueError("a password would go over the line in the open: choose STARTTLS or TLS, or sign in as nobody")
        return self


Place = FolderPlace | SftpPlace | StoragePlace | MailPlace
PLACES: dict[str, type[Place]] = {
    "folder": FolderPlace, "sftp": SftpPlace, "storage": StoragePlace, "mail": MailPlace,
}  # fmt: skip
"""Every kind, by its name."""


def place_of(told: dict[str, object]) -> Place:
    """The place again, as it was kept."""
    return PLACES[str(told["kind"])].model_validate(told)
