"""An address as a square code that a tablet's camera reads (ISO/IEC 18004), as one path of unit squares."""

from typing import Any

from reportlab.graphics.barcode.qrencoder import QRCode, QRErrorCorrectLevel

QUIET = 4  # modules of margin that the standard asks for


def qr_path(text: str) -> tuple[int, str]:
    """How many modules a side has, margin included, and the dark ones as a path.

    Valid for texts up to some 2,000 signs. Error correction M: a fingerprint on the glass does no harm.
    """
    code: Any = QRCode(None, QRErrorCorrectLevel.M)  # reportlab bears no types
    code.addData(text)
    code.make()
    size = code.getModuleCount()
    dark = ((x, y) for y in range(size) for x in range(size) if code.isDark(y, x))
    return size + 2 * QUIET, "".join(f"M{x + QUIET} {y + QUIET}h1v1h-1z" for x, y in dark)
