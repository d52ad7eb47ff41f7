"""An address as a square code that a tablet's camera reads (ISO/IEC 18004), as unit squares."""

from typing import Any

from reportlab.graphics.barcode.qrencoder import QRCode, QRErrorCorrectLevel

QUIET = 4  # modules of margin that the standard asks for


def qr_modules(text: str) -> tuple[int, list[tuple[int, int]]]:
    """How many modules a side has, margin included, and where the dark ones are, from the left and the top.

    Valid for texts up to some 2,000 signs. Error correction M: a fingerprint on the glass does no harm.
    """
    code: Any = QRCode(None, QRErrorCorrectLevel.M)  # reportlab bears no types
    code.addData(text)
    code.make()
    size = code.getModuleCount()
    dark = [(x + QUIET, y + QUIET) for y in range(size) for x in range(size) if code.isDark(y, x)]
    return size + 2 * QUIET, dark


def qr_path(text: str) -> tuple[int, str]:
    """How many modules a side has, margin included, and the dark ones as a path. Valid as ``qr_modules`` is."""
    size, dark = qr_modules(text)
    return size, "".join(f"M{x} {y}h1v1h-1z" for x, y in dark)
