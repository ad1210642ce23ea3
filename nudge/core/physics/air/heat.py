"""The heat a coil takes from an airstream, and airflow in actual and in standard terms."""

from dataclasses import dataclass

from nudge.core.physics.air.moist_air import MoistAir

STANDARD_VOLUME_M3_PER_KG = 1 / 1.2014
"""Standard air: 0.075 lb/ft³ of dry air."""


@dataclass(frozen=True, slots=True)
class Heat:
    """Heat taken from an airstream [W]. Latent is what is not sensible."""

    total_w: float
    sensible_w: float

    @property
    def latent_w(self) -> float:
        return self.total_w - self.sensible_w

    @property
    def sensible_share(self) -> float | None:
        """SHR: sensible over total. None where nothing is taken out."""
        return self.sensible_w / self.total_w if self.total_w > 0 else None


def heat_taken(entering: MoistAir, leaving: MoistAir, supply_lps: float) -> Heat:
    """Heat taken from an airstream between two states; `supply_lps` is actual flow leaving.

    Total = dry-air mass flow x Δh, the field's 4.5 x CFM x Δh at standard air. Sensible = the
    part that changes temperature at the leaving humidity, 1.08 x CFM x ΔT at standard air.
    Source: ASHRAE Fundamentals 2017, chapter 1.
    """
    dry_kg_per_s = dry_mass_flow(leaving, supply_lps)
    as_dry_as_leaving = MoistAir(entering.dry_bulb_c, leaving.humidity_ratio, entering.pressure_pa)
    return Heat(
        dry_kg_per_s * (entering.enthalpy_j_per_kg - leaving.enthalpy_j_per_kg),
        dry_kg_per_s * (as_dry_as_leaving.enthalpy_j_per_kg - leaving.enthalpy_j_per_kg),
    )


def dry_mass_flow(air: MoistAir, actual_lps: float) -> float:
    """Dry air moved by an actual flow [L/s] of this air → [kg/s]."""
    return actual_lps / 1000 / air.volume_m3_per_kg


def actual_flow(air: MoistAir, dry_kg_per_s: float) -> float:
    """Actual flow [L/s] of this air that carries a dry-air mass flow [kg/s]."""
    return dry_kg_per_s * air.volume_m3_per_kg * 1000


def standard_flow(air: MoistAir, actual_lps: float) -> float:
    """The same air as standard flow [L/s]: its dry mass at 0.075 lb/ft³."""
    return dry_mass_flow(air, actual_lps) * STANDARD_VOLUME_M3_PER_KG * 1000


def flow_from_standard(air: MoistAir, standard_lps: float) -> float:
    """Actual flow [L/s] of this air for a standard flow [L/s]. Inverse of `standard_flow`."""
    return actual_flow(air, standard_lps / 1000 / STANDARD_VOLUME_M3_PER_KG)
