"""Sheets as PDF, read back."""

from io import BytesIO

from httpx2 import Response
from pypdf import PdfReader


def words(answer: Response, most_pages: int = 1) -> str:
    """All that a sheet says, in its order; it stands on this many pages at most and inside their margins."""
    assert answer.headers["content-type"] == "application/pdf"
    pages = PdfReader(BytesIO(answer.content)).pages
    assert len(pages) <= most_pages
    low: list[float] = []
    texts = [
        p.extract_text(visitor_text=lambda t, _cm, tm, *_: low.append(tm[5]) if t.strip() else None) for p in pages
    ]
    assert min(low) > 14
    return " ".join(" ".join(texts).split())
