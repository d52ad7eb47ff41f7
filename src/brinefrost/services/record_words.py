"""One line that says what a record of the ledger holds."""

from collections.abc import Callable, Mapping
from types import MappingProxyType
from typing import Any

from brinefrost.core.quantities import QUANTITIES
from brinefrost.core.words import amount, joined, num, restored, say
from brinefrost.store.ledger import Record

Kept = dict[str, Any]


def words_of(record: Record, steps: Mapping[tuple[str, str], str] = MappingProxyType({})) -> str:
    """What a record says, in a line, its step by its name; a record that cannot be read says that."""
    try:
        return _words(record, steps)
    except (KeyError, TypeError, ValueError):
        return say("services.ledgers.this_record_is_damaged_check_the")


def _words(record: Record, steps: Mapping[tuple[str, str], str]) -> str:
    kept = {key: restored(value) if isinstance(value, str | dict) else value for key, value in _flat(record.body)}
    if "step" in kept:
        kept["step"] = steps.get((record.subject, str(kept["step"])), kept["step"])
    known = WORDS.get(record.kind)
    return known(kept, record.body) if known else str(kept.get("step") or kept.get("name") or "")


def _flat(body: dict[str, Any]) -> list[tuple[str, Any]]:
    """What a record holds, but for parts that are documents of their own."""
    return [(k, v) for k, v in body.items() if not isinstance(v, dict) or set(v) == {"code", "params", "text"}]


def _reading(kept: Kept, body: Kept) -> str:
    return say(
        "services.ledgers.of_reading_logged",
        step=kept["step"],
        quantity=QUANTITIES[kept["quantity"]].noun if kept["quantity"] in QUANTITIES else kept["quantity"],
        reading=amount(kept["value"], kept["unit"], "g"),
        by=kept["instrument_name"],
    )


def _plan_signed(kept: Kept, body: Kept) -> str:
    why = say("services.ledgers.because", reason=kept["reason"]) if kept["reason"] else ""
    name = body["document"]["name"]
    return say("services.ledgers.of_plan_signed", name=name, version=kept["version"], why=why)


def _batch_started(kept: Kept, body: Kept) -> str:
    return say(
        "services.ledgers.of_batch_started", batch=kept["code"], packs=kept["packs"], version=kept["plan_version"]
    )


def _trace(kept: Kept, body: Kept) -> str:
    return say(
        "services.ledgers.of_trace_attached",
        step=kept["step"],
        file=kept["filename"],
        instrument=kept["instrument_name"],
    )


def _trace_withdrawn(kept: Kept, body: Kept) -> str:
    return say("services.ledgers.of_trace_withdrawn", step=kept["step"], reason=kept["reason"])


def _withdrawn(kept: Kept, body: Kept) -> str:
    return say("services.ledgers.of_deviation_withdrawn", deviation=kept["deviation"], sentence=kept["sentence"])


def _deviation(kept: Kept, body: Kept) -> str:
    return say("services.ledgers.of_deviation_opened", deviation=kept["deviation"], sentence=kept["sentence"])


def _tell_decision(kept: Kept, body: Kept) -> str:
    decision = say(f"paper.decision.{kept['decision']}")
    return say(
        "services.ledgers.of_deviation_decided",
        deviation=kept["deviation"],
        decision=decision,
        reason=kept["reason"],
    )


def _tell_countersign(kept: Kept, body: Kept) -> str:
    decision = say(f"paper.decision.{kept['decision']}")
    return say("services.ledgers.of_batch_countersigned", decision=decision, reason=kept["reason"])


def _say_recall(kept: Kept, body: Kept) -> str:
    return say("services.ledgers.of_batch_recalled", reason=kept["reason"])


def _say_doubt(kept: Kept, body: Kept) -> str:
    return str(kept["sentence"])


def _stands(kept: Kept, body: Kept) -> str:
    return say("services.ledgers.of_doubt_answered", reason=kept["reason"])


def _check(kept: Kept, body: Kept) -> str:
    return say("services.ledgers.of_check_answered", step=kept["step"], reason=kept["reason"])


def _tell_calibration(kept: Kept, body: Kept) -> str:
    return say(
        "services.ledgers.of_instrument_calibrated",
        name=kept["name"],
        error=num(kept["error"]),
        against=kept["against"],
    )


def _site(kept: Kept, body: Kept) -> str:
    before, after = body["before"], body["after"]
    height = num(after["altitude_m"])
    return say("services.ledgers.of_site_corrected", before=before["name"], after=after["name"], height=height)


def _action(kept: Kept, body: Kept) -> str:
    return kept["action"] if isinstance(kept["action"], str) else str(kept["action"])


def _say_restore(kept: Kept, body: Kept) -> str:
    return say("services.ledgers.of_records_restored", at=kept["made_at"], sentence=kept["sentence"])


def _say_sign_in(kept: Kept, body: Kept) -> str:
    by = say("services.ledgers.by_pin") if kept["by"] == "PIN" else say("services.ledgers.by_password")
    return joined([kept["name"], by], ", ")


def _say_handover(kept: Kept, body: Kept) -> str:
    return say("services.ledgers.of_shift_handed_over", giver=kept["giver"], taker=kept["taker"], note=kept["note"])


def _say_validated(kept: Kept, body: Kept) -> str:
    codes = joined([str(run["code"]) for run in body["runs"]], ", ")
    return say("services.ledgers.of_process_validated", step=kept["step"], batches=codes)


def _say_revoked(kept: Kept, body: Kept) -> str:
    return say("services.ledgers.of_validation_revoked", step=kept["step"], sentence=kept["sentence"])


WORDS: dict[str, Callable[[Kept, Kept], str]] = {
    "reading_logged": _reading,
    "plan_signed": _plan_signed,
    "batch_started": _batch_started,
    "trace_attached": _trace,
    "trace_withdrawn": _trace_withdrawn,
    "deviation_opened": _deviation,
    "deviation_withdrawn": _withdrawn,
    "deviation_decided": _tell_decision,
    "batch_countersigned": _tell_countersign,
    "batch_recalled": _say_recall,
    "instrument_doubted": _say_doubt,
    "doubt_answered": _stands,
    "check_answered": _check,
    "instrument_calibrated": _tell_calibration,
    "site_corrected": _site,
    "records_restored": _say_restore,
    "shift_handed_over": _say_handover,
    "signed_in": _say_sign_in,
    "sign_in_refused": _say_sign_in,
    "action_recorded": _action,
    "process_validated": _say_validated,
    "validation_revoked": _say_revoked,
    "validation_ended": _say_revoked,
}
