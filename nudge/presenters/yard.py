"""The simulated system over the wire: how it stands, and what can be done to it."""

from pydantic import BaseModel

from nudge.contract.request import Name
from nudge.contract.strict import Number, Strict
from nudge.core.language.units import Quantity, UnitSystem, from_si, unit_label
from nudge.presenters.book import Id
from nudge.services.yard_jobs import JOBS
from nudge.services.yard_work import YardView


class JobIn(Strict):
    """A job on a simulated system; `amount` in oz or g where it takes one."""

    id: Id
    job: Name
    amount: Number | None = None


class JobOut(BaseModel):
    key: str
    label: str
    caution: str
    takes_amount: bool
    part: str


class YardOut(BaseModel):
    """A simulated system as somebody standing there sees it."""

    title: str
    is_running: bool
    tripped: str
    adding: float
    cylinder: float
    unit: str
    liquid_return: bool
    valve_is_open: bool
    is_defrosting: bool
    thermostat: str
    jobs: list[JobOut]


def yard_out(view: YardView, units: UnitSystem) -> YardOut:
    small = Quantity.SMALL_MASS
    return YardOut(
        title=view.title,
        is_running=view.is_running,
        tripped=view.tripped,
        adding=round(from_si(view.adding_kg * 1000, small, units), 1),
        cylinder=round(from_si(view.cylinder_kg, Quantity.MASS, units), 2),
        unit=unit_label(Quantity.MASS, units),
        liquid_return=view.slug_kg > 0.15,
        valve_is_open=view.valve_is_open,
        is_defrosting=view.is_defrosting,
        thermostat=view.thermostat,
        jobs=[
            JobOut(
                key=j.key,
                label=j.label,
                caution=j.caution,
                takes_amount=j.takes_amount,
                part=j.part,
            )
            for j in JOBS.values()
            if j.key != ("start_system" if view.is_on else "stop_system")
            and j.on in ("", "open" if view.circuit_is_open else "charged")
            and j.mode in ("", "heating" if view.heats else "cooling")
            and (view.thermostat or not j.at_thermostat)
        ],
    )


class DoneOut(BaseModel):
    """What came of a job, and the system after it."""

    message: str
    yard: YardOut


class ValveIn(Strict):
    """The cylinder's valve, turned."""

    is_open: bool
