"""A call-out line over the wire: what each word means."""

from pydantic import BaseModel

from nudge.contract.strict import Strict


class CalloutIn(Strict):
    text: str
    system_id: str


class SpokenOut(BaseModel):
    point: str
    label: str
    value: float
    unit: str
    decimals: int
    start: int
    end: int


class MisheardOut(BaseModel):
    message: str
    nearest: list[str]
    start: int
    end: int


class HeardOut(BaseModel):
    """What a line would mean if it were sent now."""

    spoken: list[SpokenOut]
    misheard: list[MisheardOut]
    corrects: bool
