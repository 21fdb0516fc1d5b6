"""How the API describes itself: one form of refusal, both ways to sign in, and the addresses that give no JSON."""

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema

from hollowstack.server.accounts.rights import OPERATIONS
from hollowstack.server.api.v1.problems import MEDIA_TYPE

_PROBLEM = {"$ref": "#/components/schemas/Problem"}
_SCHEMES = {
    "session": {
        "type": "apiKey",
        "in": "cookie",
        "name": "sessionid",
        "description": "With the CSRF token where it writes.",
    },
    "token": {"type": "http", "scheme": "bearer", "description": "A token made for a script (RFC 6750)."},
}
_WITH_PICTURE = {"previewPage": "preview", "showPageDifference": "difference"}
"""Operations that answer in two parts: what is told under a name, and a picture."""
_STEP = {"name": "step", "in": "path", "required": True, "schema": {"enum": ["measure", "render"]}}
_KEY = {"name": "key", "in": "path", "required": True, "schema": {"type": "string", "pattern": "^[0-9a-f]{64}$"}}


def file_of(*media: str) -> dict[str, Any]:
    """An answer that is a file of one of these types, for the description of an operation."""
    return {"description": "OK", "content": {kind: {"schema": _shape_of(kind)} for kind in media}}


def _shape_of(media: str) -> dict[str, str]:
    """JSON of a standard that is described elsewhere is an object at least; all else is bytes."""
    return {"type": "object"} if media.endswith("+json") else {"type": "string", "format": "binary"}


def _number(name: str) -> dict[str, Any]:
    return {"name": name, "in": "path", "required": True, "schema": {"type": "integer"}}


def _text(name: str) -> dict[str, Any]:
    return {"name": name, "in": "path", "required": True, "schema": {"type": "string"}}


def _plain(summary: str, operation: str, parameters: list[dict[str, Any]], answer: dict[str, Any]) -> dict[str, Any]:
    """An address outside of the framework; its refusals have no body, for what asks for pictures reads none."""
    refusals = {code: {"description": said} for code, said in (("401", "Signed out"), ("403", "Not allowed"))}
    return {
        "get": {
            "operationId": operation,
            "summary": summary,
            "parameters": parameters,
            "responses": {"200": answer, **refusals, "404": {"description": "Not there"}},
            "security": [{name: []} for name in _SCHEMES],
        }
    }


_BESIDE = {
    "/api/v1/stacks/{stack_id}/events": _plain(
        "A stack's count of changes, whenever it rises (server-sent events)",
        "watchStack",
        [_number("stack_id")],
        {"description": "OK", "content": {"text/event-stream": {"schema": {"type": "string"}}}},
    ),
    "/api/v1/prescans/{nonce}.jpg": _plain(
        "A first look at what lies on the glass, while the station takes it; it is given once",
        "getPrescan",
        [_text("nonce")],
        file_of("image/jpeg"),
    ),
    "/thumbs/{step}/{key}.webp": _plain("The small picture of a page", "getThumb", [_STEP, _KEY], file_of("image/webp")),
    "/iiif/{step}/{key}/info.json": _plain(
        "What a viewer must know of a picture (IIIF Image API 3.0)",
        "getImageInformation",
        [_STEP, _KEY],
        file_of("application/ld+json"),
    ),
    "/iiif/{step}/{key}/{region}/{size}/{rotation}/{quality}.{format}": _plain(
        "A part of a picture at a size (IIIF Image API 3.0)",
        "getImage",
        [_STEP, _KEY, *map(_text, ("region", "size", "rotation", "quality", "format"))],
        file_of("image/jpeg", "image/png", "image/webp"),
    ),
}


class DescribedAPI(NinjaAPI):
    """An API whose description is complete."""

    def get_openapi_schema(self, **given: Any) -> OpenAPISchema:
        """Its description, as OpenAPI 3.1 has it."""
        schema = super().get_openapi_schema(**given)
        for methods in schema["paths"].values():
            for operation in methods.values():
                for answer in operation["responses"].values():
                    content = answer.get("content", {})
                    if content.get("application/json", {}).get("schema") == _PROBLEM:
                        answer["content"] = {MEDIA_TYPE: {"schema": _PROBLEM}}
                if name := _WITH_PICTURE.get(operation["operationId"]):
                    answer = operation["responses"][200]
                    told = answer["content"].pop("application/json")["schema"]
                    picture = {"type": "string", "format": "binary"}
                    parts = {"type": "object", "properties": {name: told, "picture": picture}, "required": [name, "picture"]}
                    answer["content"]["multipart/form-data"] = {"schema": parts}
                if OPERATIONS[operation["operationId"]] is not None:
                    operation["security"] = [{name: []} for name in _SCHEMES]
        schema["paths"].update(_BESIDE)
        schema["components"]["securitySchemes"] = _SCHEMES
        return schema
