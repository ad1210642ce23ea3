"""The OpenAPI document: what every route may answer instead stands in it once, and is named."""

from collections.abc import Callable
from typing import Any

from fastapi import FastAPI
from fastapi.openapi.constants import REF_TEMPLATE

from nudge.api.errors import REFUSALS
from nudge.presenters.errors import ErrorsOut

NAMED = "#/components/responses/Refused"
UNSAID = ("HTTPValidationError", "ValidationError")
"""Shapes the framework would answer with by itself; none of its answers is let out."""


def name_refusals(app: FastAPI) -> None:
    """Let the document say each refusal once, and each route refer to it by its status.

    The routes themselves know nothing of it: to be told, each makes a form of every refusal for
    itself, which takes a server most of its start.
    """
    whole: Callable[[], dict[str, Any]] = app.openapi

    def openapi() -> dict[str, Any]:
        if app.openapi_schema is None:
            app.openapi_schema = _with_refusals(whole())
        return app.openapi_schema

    app.openapi = openapi  # type: ignore[method-assign]


def _with_refusals(document: dict[str, Any]) -> dict[str, Any]:
    parts = document.setdefault("components", {})
    schemas: dict[str, Any] = parts.setdefault("schemas", {})
    for unsaid in UNSAID:
        schemas.pop(unsaid, None)
    shape = ErrorsOut.model_json_schema(ref_template=REF_TEMPLATE)
    schemas |= shape.pop("$defs", {}) | {ErrorsOut.__name__: shape}
    parts["schemas"] = dict(sorted(schemas.items()))
    named = {str(status): _named(why) for status, why in REFUSALS.items()}
    parts["responses"] = {f"Refused{status}": answer for status, answer in named.items()}
    for item in document["paths"].values():
        for operation in item.values():
            answers = operation.setdefault("responses", {})
            for status in named:
                answers[status] = {"$ref": f"{NAMED}{status}"}
    return document


def _named(why: str) -> dict[str, Any]:
    shape = {"$ref": REF_TEMPLATE.format(model=ErrorsOut.__name__)}
    return {
        "description": why,
        "content": {"application/json": {"schema": shape}},
    }
