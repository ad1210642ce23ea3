"""The OpenAPI document: what every route may answer instead stands in it once, and is named."""

from collections.abc import Callable
from typing import Any

from fastapi import FastAPI

NAMED = "#/components/responses/Refused"


def name_refusals(app: FastAPI) -> None:
    """Let the document say a refusal once, and each route refer to it by its status."""
    whole: Callable[[], dict[str, Any]] = app.openapi

    def openapi() -> dict[str, Any]:
        if app.openapi_schema is None:
            app.openapi_schema = _shortened(whole())
        return app.openapi_schema

    app.openapi = openapi  # type: ignore[method-assign]


def _shortened(document: dict[str, Any]) -> dict[str, Any]:
    named = document.setdefault("components", {}).setdefault("responses", {})
    for item in document["paths"].values():
        for operation in item.values():
            for status, answer in operation.get("responses", {}).items():
                if not status.startswith("4") and status != "503":
                    continue
                if named.setdefault(f"Refused{status}", answer) == answer:
                    operation["responses"][status] = {"$ref": f"{NAMED}{status}"}
    return document
