"""The fonts that the PDF files carry."""

from pathlib import Path

FONTS = Path(__file__).parent
