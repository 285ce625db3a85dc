"""What a page draws, read from its own content."""

from __future__ import annotations

from pypdf import PdfReader
from pypdf.generic import ContentStream


def drawn(path, number=None):
    """Straight runs and circles of every page [mm], as its content says, whatever wrote it."""
    circles, lines = [], []
    pages = PdfReader(path).pages
    for page in pages if number is None else [pages[number]]:
        stack, at = [(1.0, 0.0, 0.0)], None
        for operands, operator in ContentStream(page.get_contents(), page.pdf).operations:
            scale, dx, dy = stack[-1]
            numbers = [float(v) for v in operands] if operator in (b"cm", b"m", b"l", b"c", b"re") else []
            if operator == b"q":
                stack.append(stack[-1])
            elif operator == b"Q":
                stack.pop()
            elif operator == b"cm":
                stack[-1] = (scale * numbers[0], dx + scale * numbers[4], dy + scale * numbers[5])
            elif operator == b"m":
                at = (dx + scale * numbers[0], dy + scale * numbers[1])
            elif operator in (b"l", b"c"):
                to = (dx + scale * numbers[-2], dy + scale * numbers[-1])
                (lines if operator == b"l" else circles).append((at, to))
                at = to
    return circles, lines
