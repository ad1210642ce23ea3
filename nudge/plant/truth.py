"""What perfect instruments would read on a system: every point of the vocabulary it has.

Values in core units: gauge kPa, °C, L/s, Pa, %, A, W, V, µF.
"""

from nudge.plant.blower import ECM_POWER_FACTOR, PSC_POWER_FACTOR, Airflow, blow
from nudge.plant.fluid import load_fluid
from nudge.plant.machine import Conditions, Machine
from nudge.plant.steady import Steady
from nudge.plant.wet_air import WetAir

COMPRESSOR_POWER_FACTOR = 0.95
OUTDOOR_FACTOR = 0.945
"""Of a whole outdoor unit: compressor and fan on one feed."""
FAN_POWER_FACTOR = 0.9
SUPPLY_DUCT_GAIN_K = 0.2


def running_truth(at: Steady) -> dict[str, float]:
    """Every point of a system at rest, running."""
    point, machine, conditions = at.operating, at.machine, at.conditions
    atmosphere = conditions.outdoor.kpa
    outdoors = conditions.outdoor.temp_c
    heating = conditions.heating
    compressor_w = point.stroke.power * 1000
    fan_share = max(machine.fan.share, 0.0) * point.fan_share
    fan_w = machine.fan.watts * fan_share**machine.fan.power_exponent
    discharge_c = point.discharge_c - machine.discharge_pipe_loss * (point.discharge_c - outdoors)
    supply = _supply(at)
    leaving = point.evaporated.air_out.temp_c if heating else point.condensed.air_out_c
    indoors = point.line.leaving if heating else point.line.before_device
    truth = {
        "suction_pressure": point.suction_kpa - atmosphere,
        "liquid_pressure": point.line.port.kpa - atmosphere,
        "discharge_pressure": point.discharge_kpa - atmosphere,
        "suction_line_temp": discharge_c if heating else point.suction_c,
        "true_suction_temp": point.true_suction_c,
        "evaporator_outlet_temp": point.coil_out_c,
        "liquid_line_temp": point.line.port.temp_c,
        "drier_inlet_temp": point.line.drier_in.temp_c,
        "drier_outlet_temp": point.line.drier_out.temp_c,
        "liquid_line_temp_indoor": indoors.temp_c,
        "metering_outlet_temp": point.metering_out_c,
        "discharge_line_temp": discharge_c,
        "outdoor_air_temp": outdoors,  # in the shade, a step clear of what comes back in
        "condenser_leaving_air_temp": leaving,
        "compressor_amps": compressor_w / (machine.volts * COMPRESSOR_POWER_FACTOR),
        "condenser_fan_amps": fan_w / (machine.volts * FAN_POWER_FACTOR),
        "outdoor_unit_watts": compressor_w + fan_w,
    }
    truth |= _metered("outdoor", compressor_w + fan_w, OUTDOOR_FACTOR, machine.volts)
    if machine.application == "vehicle":
        truth |= {
            "condenser_inlet_line_temp": discharge_c,
            "condenser_outlet_line_temp": point.line.leaving.temp_c,
            "condenser_entering_air_temp": point.condenser_air_c,
            "evaporator_inlet_line_temp": point.metering_out_c,
        }
    # heated air is measured where it leaves: it is thinner there
    measured_in = supply if heating else conditions.indoor
    truth |= _blown(machine, at.airflow, point.indoor_air_kg_s * measured_in.volume * 1000)
    return truth | _indoors(machine, conditions, supply) | _fixed(machine)


def _blown(machine: Machine, airflow: Airflow, litres_s: float) -> dict[str, float]:
    """What the indoor unit shows of its blower and its strips."""
    watts = airflow.watts + 1000 * machine.strips_kw
    found = {
        "airflow": litres_s,
        "blower_amps": airflow.amps,
        "indoor_unit_watts": watts,
        "total_external_static": airflow.return_pa + airflow.supply_pa,
        "return_static": -airflow.return_pa,
        "supply_static": airflow.supply_pa,
        "filter_pressure_drop": airflow.filter_pa,
    }
    if machine.is_heat_pump:
        found["strip_amps"] = 1000 * machine.strips_kw / machine.volts
    factor = ECM_POWER_FACTOR if machine.blower.kind == "ecm" else PSC_POWER_FACTOR
    return found | _metered("indoor", watts, factor, machine.volts)


def blown_truth(machine: Machine, conditions: Conditions) -> dict[str, float]:
    """Indoors, where only strips heat: the blower runs and the compressor stands."""
    airflow, indoor = blow(machine.blower, machine.volts), conditions.indoor
    rise = (airflow.watts / 1000 + machine.strips_kw) / (airflow.kg_s * indoor.cp)
    supply = WetAir(indoor.temp_c + rise, indoor.ratio, indoor.kpa)
    litres_s = airflow.kg_s * supply.volume * 1000
    return _blown(machine, airflow, litres_s) | _indoors(machine, conditions, supply)


def _metered(unit: str, watts: float, factor: float, volts: float) -> dict[str, float]:
    """What a meter on a unit's feed reads besides its watts."""
    return {
        f"{unit}_unit_volts": volts,
        f"{unit}_unit_amps": watts / (volts * factor),
        f"{unit}_unit_power_factor": factor,
    }


def standing_truth(machine: Machine, conditions: Conditions) -> dict[str, float]:
    """Every point of a system that has stood off long enough to be as warm as its air.

    Both pressures are the saturation of the outdoor unit's temperature while there is liquid
    in it, less when there is only vapour; foreign gas adds its own part.
    """
    fluid = load_fluid(machine.fluid)
    outdoors, indoors = conditions.outdoor.temp_c, conditions.indoor.temp_c
    cold = min(outdoors, indoors)
    saturated_kpa = fluid.bubble_kpa(cold)
    at = fluid.at(saturated_kpa)
    volume = inside_m3(machine)
    share = min(conditions.charge_kg / (volume * at.vapour_rho), 1.0)
    kpa = share * fluid.dew_kpa(cold) if share < 1 else saturated_kpa
    gauge = kpa + machine.foreign_gas_kpa * (cold + 273.15) / 308.15 - conditions.outdoor.kpa
    outside = (
        "suction_line_temp",
        "true_suction_temp",
        "liquid_line_temp",
        "drier_inlet_temp",
        "drier_outlet_temp",
        "discharge_line_temp",
        "outdoor_air_temp",
        "condenser_leaving_air_temp",
    )
    inside = ("evaporator_outlet_temp", "liquid_line_temp_indoor", "metering_outlet_temp")
    idle = (
        "compressor_amps",
        "condenser_fan_amps",
        "outdoor_unit_watts",
        "airflow",
        "blower_amps",
        "indoor_unit_watts",
        "total_external_static",
        "return_static",
        "supply_static",
        "filter_pressure_drop",
    )
    return (
        dict.fromkeys(("suction_pressure", "liquid_pressure", "discharge_pressure"), gauge)
        | dict.fromkeys(outside, outdoors)
        | dict.fromkeys(inside, indoors)
        | dict.fromkeys(idle, 0.0)
        | _indoors(machine, conditions, conditions.indoor)
        | _fixed(machine)
    )


def inside_m3(machine: Machine) -> float:
    """What the circuit holds, all of it."""
    lines = machine.lines
    return (
        machine.outdoor.volume_m3
        + machine.indoor.volume_m3
        + lines.suction_volume_m3
        + lines.liquid_volume_m3
        + lines.receiver_m3
        + lines.accumulator_m3
    )


def _supply(at: Steady) -> WetAir:
    """Air at the supply boot: off the coil, warmed by the blower and a little by its duct."""
    point, indoor = at.operating, at.conditions.indoor
    if at.conditions.heating:
        off = WetAir(point.condensed.air_out_c, indoor.ratio, indoor.kpa)
    else:
        off = point.evaporated.air_out
    warmed_kw = at.airflow.watts / 1000 + at.machine.strips_kw
    rise = warmed_kw / (point.indoor_air_kg_s * off.cp)
    gain = 0.0 if at.conditions.heating else SUPPLY_DUCT_GAIN_K
    return WetAir(off.temp_c + rise + gain, off.ratio, off.kpa)


def _indoors(machine: Machine, conditions: Conditions, supply: WetAir) -> dict[str, float]:
    indoor = conditions.indoor
    if machine.application == "vehicle":
        return {
            "return_air_temp": indoor.temp_c,
            "return_air_wet_bulb": indoor.wet_bulb_c,
            "vent_air_temp": supply.temp_c,
        }
    if machine.application == "refrigeration":
        return {
            "box_air_temp": indoor.temp_c,
            "return_air_temp": indoor.temp_c,
            "supply_air_temp": supply.temp_c,
        }
    return {
        "return_air_temp": indoor.temp_c,
        "return_air_wet_bulb": indoor.wet_bulb_c,
        "return_air_rh": indoor.relative_humidity,
        "supply_air_temp": supply.temp_c,
        "supply_air_wet_bulb": supply.wet_bulb_c,
        "supply_air_rh": supply.relative_humidity,
    }


def _fixed(machine: Machine) -> dict[str, float]:
    blower = machine.blower
    return {
        "line_volts": machine.volts,
        "capacitor_microfarads": blower.capacitor_uf * blower.capacitor_share,
    }
