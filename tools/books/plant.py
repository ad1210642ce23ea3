"""The simulated system and its instruments."""

from nudge.instruments.kit import KINDS as KINDS_OF_INSTRUMENT
from nudge.instruments.troubles import TROUBLES
from nudge.plant.faults import FAULTS
from nudge.plant.lags import LAGS
from nudge.plant.presets import PRESETS, preset_machine
from tools.books.page import key, page, table


@page("presets")
def _presets_page() -> str:
    return table(
        ("system", "what it is", "rated kW", "charge, lb"),
        (
            (
                key(p.key),
                p.title,
                f"{p.rating.nominal_kw:.1f}",
                f"{preset_machine(p.key).charge_kg * 2.20462:.1f}",
            )
            for p in PRESETS.values()
        ),
    )


@page("faults")
def _faults_page() -> str:
    return table(
        ("fault", "known as", "at severity 1"),
        ((key(f.key), key(f.suspect) if f.suspect else "—", f.means) for f in FAULTS.values()),
    )


@page("lags")
def _lags_page() -> str:
    return table(
        ("point", "quick share", "quick, s", "slow, s"),
        (
            (key(k), f"{lag.quick_share:g}", f"{lag.quick_s:g}", f"{lag.slow_s:g}")
            for k, lag in LAGS.items()
        ),
    )


@page("kit")
def _kit_page() -> str:
    return table(
        ("kind", "noise", "calibration error (1 sd)", "resolution", "lag, s"),
        (
            (key(k.key), f"{k.noise:g}", f"{k.error:g}", f"{k.resolution:g}", f"{k.lag_s:g}")
            for k in KINDS_OF_INSTRUMENT.values()
        ),
    )


@page("troubles")
def _troubles_page() -> str:
    return table(
        ("trouble", "of", "what it does"),
        ((key(t.key), ", ".join(map(key, t.kinds)), t.means) for t in TROUBLES.values()),
    )
