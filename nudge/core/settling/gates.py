"""When a reading may be judged: one row a gate.

A gate that *blocks* keeps charge from being judged; one that *warns* is said beside the
verdict. `breached` answers the sentence to show, or None when the gate is open.
Somebody may pass a blocking gate with a reason, which is printed; past a gate nobody is told
to move refrigerant (the rule `past_a_gate` of the decision holds that).
"""

from nudge.core.behaviours.case import Case
from nudge.core.language.errors import UnknownName
from nudge.core.language.said import Said
from nudge.core.settling.box import door_open, held_by_nothing, no_set_point, off_set_point
from nudge.core.settling.breaches import (
    air_unseen,
    application,
    chart_silent,
    collar_air_unread,
    condenser_unseen,
    contradicted,
    estimated,
    in_defrost,
    indoor_cold,
    just_changed,
    not_settled,
    outdoor_cold,
    outdoor_range,
    run_short,
    seen,
    stale,
    standing,
    target_too_low,
    time_unknown,
    too_mild,
    unread,
    valve_pressure_low,
    valve_starved,
    wet_bulb_range,
)
from nudge.core.settling.charge_mode import mode_long, mode_off, mode_short
from nudge.core.settling.driven import engine_cold, not_ready
from nudge.core.settling.duct import airflow_out, blower_table_silent, duct_trouble, duct_unmeasured
from nudge.core.settling.gate import Breach, Gate
from nudge.core.settling.odd import house_weather, humid_house, plate_efficiency, plate_figures
from nudge.core.targets.choose import Targets


def open_gates(case: Case, targets: Targets) -> list[Breach]:
    """The gates shut on this case, those that block first.

    Plant that is not judged at all is told so, and nothing about charge besides.
    """
    held = case.behaviour.gates
    gates = [gate for gate in GATES if held is None or gate.key in held]
    found = ((gate, gate.breached(case, targets)) for gate in gates)
    shut = [_shut(gate, message, case) for gate, message in found if message is not None]
    return sorted(shut, key=lambda breach: breach.effect != "blocks")


def gate_to_pass(key: str) -> str:
    """The key of a gate that may be passed. Raises: UnknownName."""
    may = {gate.key for gate in GATES if gate.may_be_passed}
    if key not in may:
        raise UnknownName("gate to pass", key, may)
    return key


def _shut(gate: Gate, message: Said, case: Case) -> Breach:
    reason = case.context.passed.get(gate.key, "").strip()
    if not reason or not gate.may_be_passed:
        return Breach(gate, message)
    plain = reason.rstrip(".").replace("{", "(").replace("}", ")")
    said = Said(f"Judged all the same, because: {plain}. {message.template}", message.measures)
    return Breach(gate, said, passed=True)


GATES: tuple[Gate, ...] = (
    Gate(
        "application_not_judged",
        "blocks",
        "Charge rules here are for comfort cooling in cooling; other plant has its own.",
        "trade rule",
        application,
        "Charge is not judged here.",
    ),
    Gate(
        "not_running",
        "blocks",
        "A pressure ratio under 1.2 is standing pressure, not refrigeration.",
        "trade rule",
        standing,
        "Start the system and let it run.",
    ),
    Gate(
        "run_short",
        "blocks",
        "Line temperatures and the house need 15 minutes from a fresh start; an inverter in its "
        "charge mode 30.",
        "trade rule",
        run_short,
        "Wait.",
    ),
    Gate(
        "just_changed",
        "blocks",
        "Pressures settle in seconds, the liquid line in minutes: 6 after a change, 10 with a "
        "valve.",
        "trade rule",
        just_changed,
        "Wait.",
    ),
    Gate(
        "charge_mode_off",
        "blocks",
        "At the speed of its own choice an inverter's subcooling says what the controller wants.",
        "maker",
        mode_off,
        "Start its charge mode.",
        ("work", "charge_mode_full"),
    ),
    Gate(
        "charge_mode_short",
        "blocks",
        "Half an hour at its speed before the first reading.",
        "maker",
        mode_short,
        "Wait.",
    ),
    Gate(
        "charge_mode_long",
        "blocks",
        "A partial speed is good for two hours: load and weather move on.",
        "maker",
        mode_long,
        "Start its charge mode again.",
        ("work", "charge_mode_partial"),
    ),
    Gate(
        "in_defrost",
        "blocks",
        "In a defrost the coils change places; for ten minutes after it nothing is steady.",
        "trade rule",
        in_defrost,
        "Wait out the defrost.",
        ("look", "clear_of_defrost"),
    ),
    Gate(
        "no_set_point",
        "blocks",
        "What a room should boil at follows from its set point and its coil's class.",
        "trade rule",
        no_set_point,
        "Write the box's set point in the plate.",
        ("work", "plate"),
    ),
    Gate(
        "set_over_outdoors",
        "warns",
        "A box over its outdoor air needs no cold; a plate that says so is misread, or unheld.",
        "trade rule",
        held_by_nothing,
        "Check the set point.",
    ),
    Gate(
        "off_set_point",
        "blocks",
        "Further than 5 °F from its set point a room pulls down: every number is the load's.",
        "trade rule",
        off_set_point,
        "Pull-down: come back near set point.",
    ),
    Gate(
        "door_open",
        "blocks",
        "Warm wet air through a door is a load that no design counts.",
        "trade rule",
        door_open,
        "Shut the door.",
        ("look", "door_shut"),
    ),
    Gate(
        "vehicle_not_ready",
        "blocks",
        "The three tests compare temperatures at full work: open doors, maximum cold, blower high.",
        "trade rule",
        not_ready,
        "Make the vehicle ready.",
        ("look", "vehicle_ready"),
    ),
    Gate(
        "engine_cold",
        "blocks",
        "With a cold engine the heater's valve and the compressor's speed are not at rest.",
        "trade rule",
        engine_cold,
        "Warm the engine.",
    ),
    Gate(
        "too_mild_to_heat",
        "blocks",
        "Over 65 °F outdoors heat is past what a plate speaks of.",
        "trade rule",
        too_mild,
        "Too mild to judge heat.",
    ),
    Gate(
        "not_settled",
        "blocks",
        "Instruments show it still moves: slope times time constant is over 1 psi or 0.5 °F for a "
        "slow quantity, or it hunts.",
        "trade rule",
        not_settled,
        "Let it settle.",
    ),
    Gate(
        "indoor_below_70",
        "blocks",
        "Under 70 °F indoors the coil lacks load and every low-side number drifts down.",
        "trade rule",
        indoor_cold,
        "Too cool indoors to judge charge.",
    ),
    Gate(
        "outdoor_below_70",
        "blocks",
        "Under 70 °F outdoors (65 with an approach plate) the head is too low for the device.",
        "trade rule",
        outdoor_cold,
        "Too cold outdoors to judge charge.",
        opened_by=("work", "collar_on"),
    ),
    Gate(
        "valve_starved",
        "blocks",
        "A valve needs its pressure difference to control: about 100 psi R-22, 160 psi R-410A, "
        "R-454B and R-32, others in proportion to saturation pressure. Many right systems run "
        "under it on a mild day: it blocks with cold air outdoors, or where liquid shows that it "
        "stacks, with superheat high or hunting and subcooling over its window. Low subcooling is "
        "never stacking.",
        "trade rule",
        valve_starved,
        "Raise the head first.",
        opened_by=("work", "collar_on"),
    ),
    Gate(
        "valve_pressure_low",
        "warns",
        "Under its rule of thumb a valve may not control; nothing read here says that it does not.",
        "trade rule",
        valve_pressure_low,
    ),
    Gate(
        "collar_air_unread",
        "blocks",
        "Behind a collar the condenser draws warmer air than the day: approach and condensing over "
        "ambient count from that.",
        "trade rule",
        collar_air_unread,
        "Read the air the condenser draws.",
        opened_by=("reading", "condenser_entering_air_temp"),
    ),
    Gate(
        "condenser_wet",
        "blocks",
        "Water on the coil cools it: head and subcooling read low until it is dry.",
        "trade rule",
        seen(
            "condenser_wet",
            "The outdoor coil is wet: the head reads low. Let it run dry, tick "
            "it dry, then read again.",
        ),
        "Let the outdoor coil dry.",
        opened_by=("look", "condenser_dry"),
    ),
    Gate(
        "wet_bulb_out_of_range",
        "blocks",
        "The superheat formula is a fit between 50 and 76 °F return wet bulb.",
        "trade rule",
        wet_bulb_range,
        "Bring the house into range first.",
    ),
    Gate(
        "outdoor_out_of_range",
        "blocks",
        "The superheat formula is a fit between 55 and 115 °F outdoors.",
        "trade rule",
        outdoor_range,
        "Do not charge by superheat now.",
    ),
    Gate(
        "superheat_target_too_low",
        "blocks",
        "A target under 5 °F leaves no room above liquid return.",
        "trade rule",
        target_too_low,
        "Do not charge by superheat now.",
    ),
    Gate(
        "airflow_out_of_range",
        "blocks",
        "Measured airflow must be the plate's ±12 %, or what some climate asks for: 310 CFM per "
        "ton drying out to 450 in dry air, ±12 %.",
        "trade rule",
        airflow_out,
        "Put the airflow right first.",
        opened_by=("test", "measure_airflow"),
    ),
    Gate(
        "filter_dirty",
        "blocks",
        "Nobody judges charge before air is right.",
        "trade rule",
        seen("filter_dirty", "The filter is dirty. Change it, let it settle, read again."),
        "Change the filter first.",
        opened_by=("work", "filter_changed"),
    ),
    Gate(
        "evaporator_coil_dirty",
        "blocks",
        "Nobody judges charge before air is right.",
        "trade rule",
        seen("evaporator_coil_dirty", "The indoor coil is dirty. Clean it, then read again."),
        "Clean the indoor coil first.",
        opened_by=("work", "evaporator_cleaned"),
    ),
    Gate(
        "condenser_coil_dirty",
        "blocks",
        "A dirty outdoor coil looks like overcharge.",
        "trade rule",
        seen("condenser_coil_dirty", "The outdoor coil is dirty. Clean it, then read again."),
        "Clean the outdoor coil first.",
        opened_by=("work", "condenser_cleaned"),
    ),
    Gate(
        "blower_capacitor_weak",
        "blocks",
        "A weak capacitor leaves the blower at half speed.",
        "trade rule",
        seen("blower_capacitor_weak", "The blower capacitor is weak. Renew it, then read again."),
        "Renew the blower capacitor first.",
        opened_by=("work", "blower_mended"),
    ),
    Gate(
        "duct_unmeasured",
        "blocks",
        "Over 0.8 in. w.c. of static or 0.2 across the filter the blower is starved: until the "
        "airflow is measured, nobody judges charge.",
        "trade rule",
        duct_unmeasured,
        "Put the air right first.",
        opened_by=("reading", "airflow"),
    ),
    Gate(
        "condenser_fan_weak",
        "blocks",
        "A slow outdoor fan raises the head like a dirty coil.",
        "trade rule",
        seen("condenser_fan_weak", "The outdoor fan is slow or stopped. Mend it, then read again."),
        "Mend the outdoor fan first.",
        opened_by=("look", "watch_condenser_fan"),
    ),
    Gate(
        "discharge_air_returns",
        "blocks",
        "Air that goes round raises the head and hides the charge.",
        "trade rule",
        seen(
            "discharge_air_returns",
            "The outdoor unit's warm air comes back in. Free its way out, then read again.",
        ),
        "Free the outdoor air's way first.",
        opened_by=("look", "feel_discharge_air"),
    ),
    Gate(
        "airflow_low",
        "blocks",
        "Nobody judges charge before air is right.",
        "trade rule",
        seen("airflow_low", "The airflow is low. Put it right, then read again."),
        "Put the airflow right first.",
        opened_by=("test", "measure_static"),
    ),
    Gate(
        "bulb_loose",
        "blocks",
        "A loose bulb opens the valve: superheat and subcooling are not the charge's.",
        "trade rule",
        seen("bulb_loose", "The bulb is loose or bare. Fix and wrap it, then read again."),
        "Fix the bulb first.",
        opened_by=("work", "bulb_fixed"),
    ),
    Gate(
        "kink_found",
        "blocks",
        "Charge cannot be judged across a restriction.",
        "trade rule",
        seen("kink_found", "The liquid line is kinked. Renew that piece, then weigh in."),
        "Mend the liquid line first.",
        opened_by=("work", "something_changed"),
    ),
    Gate(
        "service_valve_not_open",
        "blocks",
        "A half-shut service valve starves the coil and hides the head: charge cannot be judged.",
        "trade rule",
        seen(
            "service_valve_not_open", "A service valve is not fully open. Open it, then read again."
        ),
        "Open the service valve first.",
        opened_by=("work", "something_changed"),
    ),
    Gate(
        "standing_pressure_high",
        "blocks",
        "Air in the system adds its own pressure: subcooling reads too high.",
        "trade rule",
        seen(
            "standing_pressure_high",
            "Standing pressure is too high for its temperature: air in "
            "the system. Recover, evacuate, weigh in.",
        ),
        "Air in the system. Do not add or trim.",
    ),
    Gate(
        "reading_confirmed_wrong",
        "blocks",
        "A probe found wrong has to be put right before anything is judged by it.",
        "trade rule",
        seen(
            "reading_confirmed_wrong",
            "A probe was found wrong. Put it right, read again, and untick it.",
        ),
        "Put the reading right first.",
        opened_by=("test", "swap_probes"),
    ),
    Gate(
        "looks_contradict",
        "warns",
        "Two ticks that exclude each other say nothing.",
        "trade rule",
        contradicted,
    ),
    Gate(
        "readings_estimated",
        "warns",
        "An estimate helps to look further; it never proves what to do with charge.",
        "trade rule",
        estimated,
    ),
    Gate(
        "readings_stale",
        "warns",
        "Readings of different moments may be of different conditions.",
        "trade rule",
        stale,
    ),
    Gate(
        "ice_on_coil",
        "blocks",
        "Ice blocks air and insulates the coil: nothing read through it is the system's own.",
        "trade rule",
        seen("ice_on_coil", "There is ice on the coil or line. Thaw it fully, then read again."),
        "Thaw the ice first.",
    ),
    Gate(
        "chart_silent",
        "warns",
        "A maker's chart is never read beyond its edges or in its blanks.",
        "maker",
        chart_silent,
    ),
    Gate(
        "blower_table_silent",
        "warns",
        "A blower table is never read beyond its edges, and its tap must be known.",
        "maker",
        blower_table_silent,
    ),
    Gate(
        "duct_trouble",
        "warns",
        "Static pressure over design or a tight filter means the airflow is not what it seems.",
        "trade rule",
        duct_trouble,
    ),
    Gate(
        "return_air_unknown",
        "warns",
        "Without return air a cold house cannot be ruled out.",
        "trade rule",
        unread("return_air_temp", "Return air not measured: a cold house is not ruled out."),
    ),
    Gate(
        "outdoor_air_unknown",
        "warns",
        "Without outdoor air a cold day cannot be ruled out.",
        "trade rule",
        unread("outdoor_air_temp", "Outdoor air not measured: a cold day is not ruled out."),
    ),
    Gate(
        "running_unknown",
        "warns",
        "A reading of unknown age may not be settled.",
        "trade rule",
        time_unknown,
    ),
    Gate(
        "air_unseen",
        "warns",
        "Air first: filter and coil seen, or airflow known.",
        "trade rule",
        air_unseen,
    ),
    Gate(
        "humid_house",
        "warns",
        "Over 71.5 °F wet bulb the coil works on water first; an hour's run dries the house.",
        "trade rule",
        humid_house,
    ),
    Gate(
        "plate_efficiency_odd",
        "warns",
        "What the plate says is kept; what cannot be is said aloud.",
        "trade rule",
        plate_efficiency,
    ),
    Gate(
        "plate_figures_odd",
        "warns",
        "Liquid cannot leave colder than its air, and a machine is near its class.",
        "trade rule",
        plate_figures,
    ),
    Gate(
        "house_air_odd",
        "warns",
        "Expectations were fitted in houses; further out they are held at the edge.",
        "trade rule",
        house_weather,
    ),
    Gate(
        "condenser_unseen",
        "warns",
        "Look at the outdoor coil before touching charge.",
        "trade rule",
        condenser_unseen,
    ),
)
