"""The build sheet on paper: the same pages as the PDF, through the system's printing dialog."""

from __future__ import annotations

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QMarginsF, QRectF, QSize, QSizeF, Qt
from PyQt6.QtGui import QPageLayout, QPainter
from PyQt6.QtWidgets import QWidget

DOTS = 200  # an inch, that the pages are drawn at


def ask_and_print(pdf: bytes, over: QWidget) -> int:
    """Ask for a printer and print the pages of a PDF; how many were printed, 0 when it was left."""
    # Here and not before: a start prints nothing.
    from PyQt6.QtPrintSupport import QPrintDialog, QPrinter

    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    dialog = QPrintDialog(printer, over)
    if dialog.exec() != QPrintDialog.DialogCode.Accepted:
        return 0
    return print_pages(pdf, printer)


def print_pages(pdf: bytes, printer: object) -> int:
    """Put every page of a PDF on the paper of a printer, as large as it fits; how many there were."""
    from PyQt6.QtPdf import QPdfDocument
    from PyQt6.QtPrintSupport import QPrinter

    assert isinstance(printer, QPrinter)
    data, document = QByteArray(pdf), QPdfDocument(None)
    buffer = QBuffer(data)
    buffer.open(QIODevice.OpenModeFlag.ReadOnly)
    document.load(buffer)
    pages = document.pageCount()
    painter = QPainter()
    for n in range(pages):
        size: QSizeF = document.pagePointSize(n)
        wide = QPageLayout.Orientation.Landscape if size.width() > size.height() else QPageLayout.Orientation.Portrait
        printer.setPageOrientation(wide)
        printer.setPageMargins(QMarginsF(0, 0, 0, 0), QPageLayout.Unit.Millimeter)
        if n == 0:
            painter.begin(printer)
        else:
            printer.newPage()
        paper = QRectF(printer.pageLayout().paintRectPixels(printer.resolution()))
        drawn = QSize(round(size.width() / 72 * DOTS), round(size.height() / 72 * DOTS))
        image = document.render(n, drawn)
        fitted = QSizeF(drawn).scaled(paper.size(), Qt.AspectRatioMode.KeepAspectRatio)
        painter.drawImage(QRectF(0, 0, fitted.width(), fitted.height()), image)
    painter.end()
    return pages
