"""Field-unit shorthand for tests: readings as a technician writes them, into core units."""

from nudge.core.behaviours.case import Case, Context, open_case
from nudge.core.behaviours.rows import BEHAVIOURS
from nudge.core.judgement.assess import Assessment, assess
from nudge.core.judgement.model import model_of
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.circuit.equipment import FEEDS, Application, MeteringDevice, Plate


def celsius(fahrenheit: float) -> float:
    return (fahrenheit - 32) / 1.8


def readings(**spoken: float) -> dict[str, float]:
    """`readings(suct=118, sl=52)` by short form, psig, °F and CFM."""
    by_short = {name: row for row in POINTS.values() for name in row.short}
    to_core = {
        "pressure": lambda psi: psi * 6.894757,
        "temperature": celsius,
        "airflow": lambda cfm: cfm * 0.4719474,
        "humidity": float,
        "power": float,
        "static_pressure": lambda inches: inches * 249.0889,
    }
    return {
        by_short[name].key: to_core[by_short[name].quantity.value](value)
        for name, value in spoken.items()
    }


def plate(
    device: str = "txv", fluid: str = "R-410A", subcooling: float | None = 10, **more: object
) -> Plate:
    target = None if subcooling is None else subcooling / 1.8
    return Plate(fluid, MeteringDevice(device), target_subcooling_k=target, **more)  # type: ignore[arg-type]


COOLING = BEHAVIOURS["cooling"]
MODELS = {feed: model_of(COOLING, feed) for feed in FEEDS}
VALVE, ORIFICE = MODELS["valve"], MODELS["orifice"]
SETTLED = Context(minutes_running=20, minutes_since_change=15)


def settled(*seen: str) -> Context:
    return Context(20, 15, frozenset(seen))


def case(of: Plate | None = None, context: Context = SETTLED, **spoken: float) -> Case:
    return open_case(of or plate(), readings(**spoken), context)


def judged(of: Plate | None = None, context: Context = SETTLED, **spoken: float) -> Assessment:
    return assess(of or plate(), readings(**spoken), context)


__all__ = ["SETTLED", "Application", "case", "celsius", "judged", "plate", "readings", "settled"]
