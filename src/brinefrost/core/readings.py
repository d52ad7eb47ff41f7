"""What a reading may be: plausible ranges, and the slips people make at a number pad."""

from datetime import datetime, timedelta

from brinefrost.core.errors import AskFirstError, ImplausibleReadingError
from brinefrost.core.quantities import QUANTITIES, QuantityInfo, ReadingQuantity
from brinefrost.core.quantity import to_inside
from brinefrost.core.words import Message, amount, bare, joined, num, say, temp

CLOCK_TOLERANCE = timedelta(seconds=60)  # two clocks on one site may differ so much


def check_value(
    quantity: ReadingQuantity, value: float, expected: tuple[float, float] | None, confirmed: bool = False
) -> None:
    """Refuse what cannot be, and ask about what looks like a slip.

    Parameters
    ----------
    quantity : ReadingQuantity
        What was read.
    value : float
        The reading [°C, pH or %].
    expected : (float, float) or None
        The band the plan expects at this step [same unit].
    confirmed : bool
        The person was asked and said it is right.

    Returns
    -------
    None
        The reading may be kept.

    Raises
    ------
    ImplausibleReadingError
        If no kitchen could have read it.
    AskFirstError
        If it looks like °F typed for °C, a lost decimal mark, or is far from what the plan expects.

    Notes
    -----
    Valid for finite numbers in the quantity's own unit.

    References
    ----------
    Common practice, no source.
    """
    span = QUANTITIES[quantity]
    if not span.low <= value <= span.high:
        raise _refusal(quantity, value, span, expected)
    if confirmed or expected is None:
        return
    low, high = expected
    if low - span.far <= value <= high + span.far:
        return
    as_celsius = to_inside(value, "°F")
    if span.unit == "°C" and low - span.far <= as_celsius <= high + span.far:
        raise AskFirstError(
            say(
                "core.readings.is_far_from_what_is_expected",
                value=temp(value, "g"),
                value2=num(value),
                as_celsius=temp(as_celsius, ".1f"),
            ),
            reason="fahrenheit",
            value=value,
            suggestion_c=round(as_celsius, 2),
        )
    raise AskFirstError(
        say(
            "core.readings.is_far_from_what_is_expected_2",
            value=amount(value, span.unit, "g"),
            low=bare(amount(low, span.unit, "g")),
            high=amount(high, span.unit, "g"),
        ),
        reason="far",
        value=value,
    )


def reading_said(quantity: ReadingQuantity, value: float, unit: str | None = None, spec: str = "") -> Message:
    """A reading as it is written: with its unit, or right and not right where eyes told.

    Valid for every quantity that is read.
    """
    info = QUANTITIES[quantity]
    if info.kind == "flag":
        return say("core.readings.right") if value >= 0.5 else say("core.readings.not_right")
    return amount(value, info.unit if unit is None else unit, spec)


def check_time(taken_at: datetime, now: datetime, batch_started_at: datetime) -> None:
    """Refuse a reading from the future or from before its batch.

    Parameters
    ----------
    taken_at : datetime
        When it was taken, with a zone.
    now : datetime
        Now, with a zone.
    batch_started_at : datetime
        When the batch began, with a zone.

    Returns
    -------
    None
        The time may be kept.

    Raises
    ------
    ImplausibleReadingError
        If the time has no zone, lies more than a minute ahead, or before the batch.

    Notes
    -----
    Valid for any zone; instants are compared, so midnight and clock changes do not matter.

    References
    ----------
    Common practice, no source.
    """
    if taken_at.tzinfo is None:
        raise ImplausibleReadingError(say("core.readings.the_time_of_the_reading_needs"), reason="zone")
    if taken_at > now + CLOCK_TOLERANCE:
        raise ImplausibleReadingError(say("core.readings.that_time_has_not_come_yet"), reason="future")
    if taken_at < batch_started_at - CLOCK_TOLERANCE:
        raise ImplausibleReadingError(say("core.readings.that_is_before_the_batch_began"), reason="before_batch")


def _refusal(
    quantity: str, value: float, span: QuantityInfo, expected: tuple[float, float] | None
) -> ImplausibleReadingError:
    """What cannot be, with the slips that would explain it: a lost decimal mark, or °F."""
    low, high = expected or (span.low, span.high)
    near = (low - span.far, high + span.far)
    guesses, celsius = [], None
    if near[0] <= value / 10 <= near[1]:
        guesses.append(amount(value / 10, span.unit, "g"))
    if span.unit == "°C" and near[0] <= to_inside(value, "°F") <= near[1]:
        celsius = round(to_inside(value, "°F"), 2)
        guesses.append(say("core.readings.f_that_is", value=num(value), celsius=temp(celsius, ".1f")))
    hint = (
        say("core.readings.did_you_mean", guesses=joined(guesses, "words.or"))
        if guesses
        else say("core.readings.look_at_the_instrument_and_type")
    )
    return ImplausibleReadingError(
        say("core.readings.of_cannot_be", name=span.name, value=_plain(value, span), hint=hint),
        quantity=quantity,
        value=value,
        low=span.low,
        high=span.high,
        suggestion_c=celsius,
    )


def _plain(value: float, span: QuantityInfo) -> Message:
    """A value after the quantity's name: a pH is not called so twice."""
    written = amount(value, span.unit, "g")
    return bare(written) if span.unit == "pH" else written
