"""The code of an address: three finder patterns in its corners and a margin around it (ISO/IEC 18004)."""

import re

from brinefrost.reports.qr import QUIET, qr_path

FINDER = ["1111111", "1000001", "1011101", "1011101", "1011101", "1000001", "1111111"]


def test_the_code_is_one() -> None:
    size, path = qr_path("https://pass.kitchen:8717")
    dark = {(int(x), int(y)) for x, y in re.findall(r"M(\d+) (\d+)h1v1h-1z", path)}
    side = size - 2 * QUIET
    assert (side - 17) % 4 == 0  # 21 modules a side, and four more with every version
    assert all(QUIET <= each < size - QUIET for place in dark for each in place)
    for left, top in ((0, 0), (side - 7, 0), (0, side - 7)):
        corner = ["".join(str(int((left + x + QUIET, top + y + QUIET) in dark)) for x in range(7)) for y in range(7)]
        assert corner == FINDER
    timing = [(8 + x + QUIET, 6 + QUIET) in dark for x in range(side - 16)]
    assert timing == [x % 2 == 0 for x in range(side - 16)]
