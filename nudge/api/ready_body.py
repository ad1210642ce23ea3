"""A request body straight from its bytes into its model, for the routes that must be quick.

FastAPI would parse it to plain values first and walk those; Pydantic does both at once. The
answer to a bad body, and the OpenAPI document, are the same as for any other route.
"""

from typing import Any, TypeVar

from fastapi import Request
from fastapi.exceptions import RequestValidationError
from pydantic import BaseModel, ValidationError

Body = TypeVar("Body", bound=BaseModel)


async def read_body(model: type[Body], request: Request) -> Body:
    """The body as a model. Raises: RequestValidationError, with every problem."""
    try:
        return model.model_validate_json(await request.body())
    except ValidationError as refused:
        errors = refused.errors(include_url=False, include_context=False)
        raise RequestValidationError(
            [{**error, "loc": ("body", *error["loc"])} for error in errors]
        ) from refused


def takes(model: type[BaseModel]) -> dict[str, Any]:
    """What the OpenAPI document says about a body read this way. Another route describes it."""
    schema = {"$ref": f"#/components/schemas/{model.__name__}"}
    return {"requestBody": {"required": True, "content": {"application/json": {"schema": schema}}}}
