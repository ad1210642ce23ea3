"""What every request model shares: no unknown names, no text for numbers, no NaN."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

Number = Annotated[float, Field(strict=True, allow_inf_nan=False)]
"""A finite JSON number. Text, booleans, NaN and infinity are refused."""


YesNo = Annotated[bool, Field(strict=True)]
"""true or false; 0 and "no" are refused."""


class Strict(BaseModel):
    """A request body: an unknown field is an error, answered with the nearest known one."""

    model_config = ConfigDict(extra="forbid")
