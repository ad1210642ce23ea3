"""What a visit shows of its own steps before anything is judged."""

from collections.abc import Mapping
from contextlib import suppress

from nudge.core.checks.fitting import FIT_KEYS
from nudge.core.checks.form_findings import FormFinding
from nudge.core.checks.forms import judge_form
from nudge.core.checks.opening_forms import PLAN, planned
from nudge.core.judgement.assess import PRESSURES
from nudge.core.language.errors import CoreError
from nudge.core.opening.followed import Way
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.visit.facts import Facts, Ticked
from nudge.services.charge_mode import charge_mode_of
from nudge.services.folder import Folder
from nudge.store.tables import Visit


def findings_of(plate: Plate, folder: Folder) -> dict[str, FormFinding | None]:
    """What every form filled in on a visit means; None where the plate was changed since."""
    found = {}
    for key, row in folder.checks.items():
        finding: FormFinding | None = None
        with suppress(CoreError):
            finding = judge_form(key, plate, row.entries)
        found[key] = finding
    return found


def first_facts(
    visit: Visit,
    plate: Plate,
    folder: Folder,
    observations: frozenset[str],
    points: frozenset[str],
    findings: Mapping[str, FormFinding | None],
    way: Way,
) -> Facts:
    """The facts that no judgement is needed for."""
    return Facts(
        observations=observations,
        points=points,
        findings={key: one.state if one else "" for key, one in findings.items()},
        ticks={key: Ticked(row.state, row.reason) for key, row in folder.ticks.items()},
        proven=folder.tests.proven,
        kind=visit.kind,
        circuit=way.state,
        passed=frozenset(one.state for one in way.entered),
        charge_mode=charge_mode_of(visit)[0],
        repairs=repairs_of(visit, folder),
        has_recovered=any(e.kind == "refrigerant_removed" for e in visit.standing_events),
        photos=len(folder.photos),
        has_complaint=bool(visit.complaint.strip()),
        plate_is_known=plate.nominal_capacity_w is not None,
        is_first_visit=folder.closed_before == 0,
        connection=visit.connection,
        has_gauges=not points.isdisjoint(PRESSURES),
        cylinders=tuple(folder.cylinders),
        has_baseline=folder.has_baseline_of(visit.id),
        is_cold_call=visit.kind == "cold_charge_check",
    )


def repairs_of(visit: Visit, folder: Folder) -> frozenset[str]:
    """Parts that are renewed: those planned, those fitted; a new machine's line set."""
    parts = planned(folder.checks[PLAN].entries) if PLAN in folder.checks else frozenset()
    new = {"joint"} if visit.kind == "new_installation" else set()
    return parts | fitted_in(folder) | new


def fitted_in(folder: Folder) -> frozenset[str]:
    """Parts whose fitting was written down on this visit."""
    return frozenset(key for key, part in FIT_KEYS.items() if part.form_key in folder.checks)
