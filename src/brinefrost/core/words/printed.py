"""Legal limits in °F, as the codes print them."""

# printed side by side in the FDA Food Code 2022, 3-202.11, 3-501.14, 3-501.16 and 3-501.19, where the °C is rounded
# from the °F; every other limit of the US set is kept in °C to one decimal, or is the same in both
PAIRS_F = {57.0: 135.0, 21.0: 70.0, 7.0: 45.0}
NEAR_F = 0.15  # a limit set in whole °F and written in °C to one decimal lies this near


def printed_f(celsius: float) -> float:
    """A legal limit [°C] in °F as the codes print it; one that no code prints in °F is converted exactly.

    Valid for finite numbers. Source: FDA Food Code 2022; FSIS Appendix A and B (2021), limits set in whole °F.
    """
    pair = PAIRS_F.get(round(celsius, 3))
    if pair is not None:
        return pair
    exact = celsius * 9 / 5 + 32
    return float(round(exact)) if abs(exact - round(exact)) <= NEAR_F else exact
