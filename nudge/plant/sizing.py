"""A machine from its rated point: the sizes that make it do there what its plate says."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import exp, log

from nudge.plant.circuit import (
    NOWHERE,
    STARTS,
    Operating,
    describe,
    first_guess,
    held,
    no_point,
)
from nudge.plant.circulation import SUCTION_SCALE, Round, Setting, Unknowns, followed
from nudge.plant.fluid import Fluid, Saturated, load_fluid
from nudge.plant.lines import receiver_level
from nudge.plant.machine import (
    Blower,
    Coil,
    Compressor,
    Conditions,
    Device,
    Lines,
    Machine,
    OutdoorFan,
)
from nudge.plant.metering import passed
from nudge.plant.newton import solve
from nudge.plant.rating import (
    OVERSIZE,
    SUCTION_LOSS,
    USUAL_LINE_M,
    Rating,
    rated_conditions,
)
from nudge.plant.wet_air import air_of


@dataclass(frozen=True, slots=True)
class _Aim:
    """The rated point as the circuit sees it: flow [kg/s], both pressures [kPa]."""

    rating: Rating
    conditions: Conditions
    flow: float
    low_kpa: float
    high_kpa: float

    def point(self, machine: Machine) -> Round:
        """The circuit held at its rated pressures and suction, whatever comes out."""
        fluid = load_fluid(self.rating.fluid)
        suction_kpa = self.low_kpa * (1 - SUCTION_LOSS * self.rating.line_m / USUAL_LINE_M)
        at = fluid.at(suction_kpa)
        superheat_k = self.rating.superheat_k + self.rating.suction_gain_k
        gas = fluid.vapour(suction_kpa, at.dew_c + superheat_k, at)
        setting = Setting(machine, self.conditions, machine.blower.set_kg_s, 1.0)
        return followed(
            setting, fluid, (log(suction_kpa), log(self.high_kpa), gas.enthalpy / SUCTION_SCALE)
        )


def as_it_is(machine: Machine) -> Machine:
    return machine


def sized(rating: Rating, shape: Callable[[Machine], Machine] = as_it_is) -> Machine:
    """Size every part so that the rated point comes out as rated, and charge it for that.

    `shape` changes its laws first: what it does at the rated point stays as rated.

    Raises: NoOperatingPoint, for a rating that hangs together nowhere.
    """
    fluid = load_fluid(rating.fluid)
    high_c = rating.outdoor_c + rating.over_ambient_k
    low_kpa, high_kpa = fluid.dew_kpa(rating.evaporating_c), fluid.bubble_kpa(high_c)
    liquid_h = fluid.at(high_kpa).liquid_h - fluid.at(high_kpa).liquid_cp * rating.subcooling_k
    coil = fluid.at(low_kpa)
    left = fluid.vapour(low_kpa, coil.dew_c + rating.superheat_k, coil)
    blower_kw = 0.018 * rating.nominal_kw if rating.application == "comfort_cooling" else 0.0
    flow = (rating.nominal_kw + blower_kw) / (left.enthalpy - liquid_h)
    aim = _Aim(rating, rated_conditions(rating), flow, low_kpa, high_kpa)
    machine = shape(_first(rating, flow, low_kpa, high_kpa))
    for _ in range(3):
        machine = _outdoor_for(aim, _moving(aim, machine))
        machine = _moving(aim, _indoor_for(aim, machine))
    point = aim.point(machine)
    fluid = load_fluid(rating.fluid)
    stock_kg = receiver_level(fluid, point.line.leaving) * machine.lines.receiver_m3
    stock_kg *= fluid.at(point.liquid_kpa).liquid_rho
    machine = replace(_device_for(rating, machine, point), charge_kg=point.mass, stock_kg=stock_kg)
    return heating_ready(machine) if rating.is_heat_pump else machine


def _first(rating: Rating, flow: float, low_kpa: float, high_kpa: float) -> Machine:
    fluid = load_fluid(rating.fluid)
    suction, liquid = fluid.at(low_kpa), fluid.at(high_kpa)
    air = rating.air_kg_s_per_kw * rating.nominal_kw
    outdoor_air = rating.outdoor_air_kg_s_per_kw * rating.nominal_kw
    lines = _lines(rating, flow, (low_kpa, suction), (high_kpa, liquid))
    most_pa = 330.0 if rating.blower == "psc" else 400.0
    per_square = most_pa * 0.5 / (air * air)
    blower = Blower(
        kind=rating.blower,
        most_pa=most_pa,
        most_kg_s=air * 2**0.5,
        set_kg_s=air,
        rated_watts=rating.indoor_fan_watts
        * rating.nominal_kw
        * (1.0 if rating.blower == "psc" else 0.75),
        return_resistance=0.20 * per_square,
        filter_resistance=0.16 * per_square,
        coil_resistance=0.34 * per_square,
        supply_resistance=0.30 * per_square,
    )
    return Machine(
        rating.fluid,
        rating.application,
        rating.nominal_kw,
        Compressor(0.003, isentropic=rating.isentropic, best_ratio=rating.best_ratio),
        _coil(rating.condenser_l_per_kw * rating.nominal_kw / 1000, 1.0, outdoor_air, 0.7, flow),
        _coil(rating.evaporator_l_per_kw * rating.nominal_kw / 1000, 1.0, air, 0.25, flow),
        Device(rating.device, 1e-6),
        lines,
        blower,
        OutdoorFan(rating.outdoor_fan_watts * rating.nominal_kw),
        1.0,
        is_heat_pump=rating.is_heat_pump,
        head=rating.head,
    )


def _lines(
    rating: Rating, flow: float, low: tuple[float, Saturated], high: tuple[float, Saturated]
) -> Lines:
    """Both lines and what stands in them, by what they lose at the rated flow."""
    (low_kpa, suction), (high_kpa, liquid) = low, high
    square = flow * flow
    area = {
        bore: 3.1416 / 4 * (bore / 1000) ** 2
        for bore in (rating.liquid_bore_mm, rating.suction_bore_mm)
    }
    return Lines(
        suction_volume_m3=area[rating.suction_bore_mm] * rating.line_m,
        liquid_volume_m3=area[rating.liquid_bore_mm] * rating.line_m + 0.0002,
        suction_resistance=SUCTION_LOSS
        * low_kpa
        * suction.vapour_rho
        / square
        * rating.line_m
        / USUAL_LINE_M,
        liquid_resistance=0.012
        * high_kpa
        * liquid.liquid_rho
        / square
        * rating.line_m
        / USUAL_LINE_M,
        condenser_resistance=0.012 * high_kpa * liquid.vapour_rho / square,
        suction_ua=rating.suction_ua * rating.line_m,
        liquid_ua=0.0003 * rating.line_m,
        drier_resistance=0.003 * high_kpa * liquid.liquid_rho / square,
        receiver_m3=rating.receiver_l / 1000,
        subcooler_ua=rating.subcooler_ua * rating.nominal_kw,
        accumulator_m3=rating.accumulator_l / 1000,
    )


def _coil(volume: float, ua_air: float, air: float, vapour: float, flow: float) -> Coil:
    """Refrigerant sides in proportion: boiling and condensing well, gas poorly, liquid between."""
    return Coil(volume, ua_air, 3.0 * ua_air, vapour * ua_air, 1.3 * ua_air, air, rated_flow=flow)


def _scaled(coil: Coil, ua_air: float) -> Coil:
    share = ua_air / coil.ua_air
    return replace(
        coil,
        ua_air=ua_air,
        ua_two_phase=coil.ua_two_phase * share,
        ua_vapour=coil.ua_vapour * share,
        ua_liquid=coil.ua_liquid * share,
    )


def _moving(aim: _Aim, machine: Machine) -> Machine:
    """Sweep as much as moves the rated flow."""
    swept = machine.compressor.displacement_m3_s * aim.flow / aim.point(machine).stroke.flow
    return replace(machine, compressor=replace(machine.compressor, displacement_m3_s=swept))


def _outdoor_for(aim: _Aim, machine: Machine) -> Machine:
    """As much outdoor surface as leaves the rated subcooling."""
    fluid = load_fluid(aim.rating.fluid)

    def with_surface(ua_air: float) -> Machine:
        return replace(machine, outdoor=_scaled(machine.outdoor, ua_air))

    def miss(ua_air: float) -> float:
        point = aim.point(with_surface(ua_air))
        at = fluid.at(point.liquid_kpa)
        subcooling_k = (at.liquid_h - point.condensed.enthalpy) / at.liquid_cp
        return subcooling_k - aim.rating.subcooling_k

    return with_surface(_surface(miss, aim.rating.nominal_kw))


def _indoor_for(aim: _Aim, machine: Machine) -> Machine:
    """As much indoor surface as leaves the rated superheat."""

    def with_surface(ua_air: float) -> Machine:
        return replace(machine, indoor=_scaled(machine.indoor, ua_air))

    def miss(ua_air: float) -> float:
        return aim.point(with_surface(ua_air)).superheat_k - aim.rating.superheat_k

    return with_surface(_surface(miss, aim.rating.nominal_kw))


def _surface(miss: Callable[[float], float], nominal_kw: float) -> float:
    """The air-side conductance [kW/K] at which nothing is missed: halved until both sides have been
    seen, then by false position.

    Source: Dowell and Jarratt 1971, whose halving of an end that stays keeps both ends moving.
    """
    low, high = log(0.01 * nominal_kw), log(3.0 * nominal_kw)
    under = over = 0.0
    side = 0
    for _ in range(MOST_TRIALS):
        between = low + (high - low) * (under / (under - over) if under and over else 0.5)
        missed = miss(exp(between))
        if abs(missed) < MISSED_K:
            return exp(between)
        if missed < 0:
            low, under, over, side = between, missed, over / 2 if side < 0 else over, -1
        else:
            high, over, under, side = between, missed, under / 2 if side > 0 else under, 1
    return exp((low + high) / 2)


MISSED_K, MOST_TRIALS = 1e-9, 60
"""As near as arithmetic goes; some ten are enough, sixty halvings would be."""


def _device_for(rating: Rating, machine: Machine, point: Round) -> Machine:
    """An opening that passes the rated flow; a valve is chosen larger and stands part open."""
    fluid = load_fluid(rating.fluid)
    before = point.line.before_device
    unit = replace(machine.device, area_m2=1e-6)
    per_area = passed(unit, fluid, before.kpa, before.enthalpy, point.evaporator_kpa, 1.0) / 1e-6
    area = point.stroke.flow / per_area
    if rating.device == "fixed_orifice":
        return replace(machine, device=replace(machine.device, area_m2=area))
    opening = 1 / rating.valve_oversize
    least_k = ROOM_STATIC_K if rating.application == "refrigeration" else 1.0
    static = max(rating.superheat_k - 5.0 * opening, least_k)
    gradient = (rating.superheat_k - static) / opening
    return replace(
        machine,
        device=replace(
            machine.device,
            area_m2=area * rating.valve_oversize,
            static_superheat_k=static,
            gradient_k=gradient,
            target_superheat_k=rating.superheat_k,
        ),
    )


ROOM_STATIC_K = 0.3
"""A freezer's coil works so close to its air that its valve is set to open almost at once."""
HEATING_OUTDOOR = (8.3, 75.0)
HEATING_INDOOR = (21.1, 40.0)
HEATING_SUBCOOLING_K = 8.0


def heating_conditions(charge_kg: float) -> Conditions:
    """The standard heating point: 47 °F out, 70 °F in."""
    return Conditions(air_of(*HEATING_INDOOR), air_of(*HEATING_OUTDOOR), charge_kg, heating=True)


HEATING_SUPERHEAT_K = 4.5
"""What its heating device is chosen for at the coil's outlet, at the standard point."""


def heating_ready(machine: Machine) -> Machine:
    """With a device of its own for heating, and a compensator, so that the standard heating point
    has its superheat and subcooling.

    Raises: NoOperatingPoint, where its coils allow no such point.
    """
    fluid = load_fluid(machine.fluid)
    conditions = heating_conditions(machine.charge_kg)
    is_valve = machine.device.kind != "fixed_orifice"
    opening = machine.device.most_open / OVERSIZE if is_valve else 1.0
    setting = Setting(machine, conditions, machine.blower.set_kg_s, opening)
    point = _pointed(setting, fluid)
    before = point.line.before_device
    per_area = passed(
        replace(machine.device, area_m2=1.0),
        fluid,
        before.kpa,
        before.enthalpy,
        point.evaporator_kpa,
        opening,
    )
    static = machine.device.static_superheat_k
    if machine.device.kind == "txv":
        static = HEATING_SUPERHEAT_K - machine.device.gradient_k * opening
    device = replace(
        machine.device,
        area_m2=point.flow / per_area,
        static_superheat_k=static,
        target_superheat_k=HEATING_SUPERHEAT_K,
        usual_c=point.evaporating_c,  # a cross charge is chosen for the cold it works in
    )
    store = max(machine.charge_kg - point.mass, 0.0)
    return replace(machine, heating_device=device, heating_store_kg=store)


def _pointed(setting: Setting, fluid: Fluid) -> Operating:
    """The circuit where superheat and subcooling are as chosen, whatever device and charge."""

    def residuals(x: Unknowns) -> Unknowns:
        try:
            point = followed(setting, fluid, x)
        except (ValueError, ZeroDivisionError, OverflowError, TypeError):
            return NOWHERE
        liquid = fluid.at(point.liquid_kpa)
        subcooling_k = (liquid.liquid_h - point.condensed.enthalpy) / liquid.liquid_cp
        arrived = point.evaporated.enthalpy + point.gain / point.stroke.flow
        return (
            (point.superheat_k - HEATING_SUPERHEAT_K) / 20,
            (subcooling_k - HEATING_SUBCOOLING_K) / 20,
            (arrived - x[2] * SUCTION_SCALE) / 20,
        )

    def within(x: Sequence[float]) -> Unknowns:
        return held(x, fluid)

    for low_k, high_k in STARTS:
        found = solve(residuals, first_guess(setting, fluid, low_k, high_k), within)
        if found is not None:
            return describe(setting, fluid, found.x, found)
    raise no_point(setting)
