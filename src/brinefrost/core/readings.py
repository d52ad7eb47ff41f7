"""What a reading may be: plausible ranges, and the slips people make at a number pad."""

from datetime import datetime, timedelta

from brinefrost.core.errors import AskFirstError, ImplausibleReadingError
from brinefrost.core.quantities import QUANTITIES, QuantityInfo, ReadingQuantity
from brinefrost.core.quantity import to_inside

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
            f"{value:g} °C is far from what is expected here. Is it {value:g} °F, that is {as_celsius:.1f} °C?",
            reason="fahrenheit",
            value=value,
            suggestion_c=round(as_celsius, 2),
        )
    raise AskFirstError(
        f"{value:g} {span.unit} is far from what is expected here ({low:g} to {high:g} {span.unit}). Is it right?",
        reason="far",
        value=value,
    )


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
        raise ImplausibleReadingError("The time of the reading needs a zone.", reason="zone")
    if taken_at > now + CLOCK_TOLERANCE:
        raise ImplausibleReadingError(
            "That time has not come yet. Check the clock time of the reading.", reason="future"
        )
    if taken_at < batch_started_at - CLOCK_TOLERANCE:
        raise ImplausibleReadingError(
            "That is before the batch began. Check the clock time of the reading.", reason="before_batch"
        )


def _refusal(
    quantity: str, value: float, span: QuantityInfo, expected: tuple[float, float] | None
) -> ImplausibleReadingError:
    """What cannot be, with the slips that would explain it: a lost decimal mark, or °F."""
    low, high = expected or (span.low, span.high)
    near = (low - span.far, high + span.far)
    guesses, celsius = [], None
    if near[0] <= value / 10 <= near[1]:
        guesses.append(f"{value / 10:g} {span.unit}")
    if span.unit == "°C" and near[0] <= to_inside(value, "°F") <= near[1]:
        celsius = round(to_inside(value, "°F"), 2)
        guesses.append(f"{value:g} °F, that is {celsius:.1f} °C")
    hint = f" Did you mean {' or '.join(guesses)}?" if guesses else " Look at the instrument and type it again."
    return ImplausibleReadingError(
        f"{span.name} of {value:g} {span.unit} cannot be.{hint}",
        quantity=quantity,
        value=value,
        low=span.low,
        high=span.high,
        suggestion_c=celsius,
    )
