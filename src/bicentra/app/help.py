"""Help that ships with the program: a page for every bench, the words of the trade with pictures; what it is made of."""

from importlib.metadata import PackageNotFoundError, metadata

from PySide6.QtCore import QSize, Qt, QUrl
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QTextBrowser,
    QWidget,
)

from bicentra import __version__
from bicentra.app.bench_list import BENCHES
from bicentra.data import data_path

PAGES = {
    **{bench.name: bench.title for bench in BENCHES},
    "gestures": "Keys and pointer",
    "practice": "Practice", "sheets": "Sheets of the parts", "papers": "Papers", "gauges": "Readings and gauges",
    "library": "The library", "vehicle-file": "The vehicle file", "files": "How files are kept safe",
    "words": "Words of the trade",
}  # fmt: skip
LIBRARIES = {
    "PySide6-Essentials": "LGPL 3", "numpy": "BSD 3-clause", "scipy": "BSD 3-clause", "shapely": "BSD 3-clause",
    "msgspec": "BSD 3-clause", "ezdxf": "MIT", "fonttools": "MIT", "reportlab": "BSD",
    "pypdfium2": "BSD 3-clause, Apache 2.0", "pillow": "MIT-CMU", "platformdirs": "MIT", "pyserial": "BSD",
    "cadquery-ocp-novtk": "Apache 2.0; the kernel itself LGPL 2.1 with an exception",
}  # fmt: skip
"""What the program is built on, and under which licence; by the packages' own statements."""


class HelpDialog(QDialog):
    """The pages, one beside the list of all; it stays open beside the window while work goes on."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Help")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.resize(860, 640)
        row = QHBoxLayout(self)
        self.list = QListWidget()
        self.list.setAccessibleName("Pages")
        self.list.setFixedWidth(190)
        for title in PAGES.values():
            item = QListWidgetItem(title)
            item.setSizeHint(QSize(0, 36))
            self.list.addItem(item)
        self.browser = QTextBrowser()
        self.browser.setAccessibleName("The page")
        self.browser.setOpenLinks(False)
        self.list.currentRowChanged.connect(lambda place: self.show_page(list(PAGES)[place]))
        row.addWidget(self.list)
        row.addWidget(self.browser, 1)

    def show_page(self, name: str) -> None:
        """Show the page called ``name``; the start sheet and other places without one show the line-up's."""
        name = name if name in PAGES else "lineup"
        place = list(PAGES).index(name)
        if self.list.currentRow() != place:
            self.list.setCurrentRow(place)
            return
        folder = data_path("help", f"{name}.md").parent
        self.browser.document().setBaseUrl(QUrl.fromLocalFile(f"{folder}/"))
        self.browser.setMarkdown(page_text(name))


def page_text(name: str) -> str:
    """Return the page called ``name`` as it is shown: lines that begin a word of the trade stand on lines of their own."""
    text = data_path("help", f"{name}.md").read_text("utf-8")
    return text.replace("\n**", "\n\n**")


def show_help(parent: QWidget, name: str) -> HelpDialog:
    """Open the page called ``name`` beside the window."""
    dialog = HelpDialog(parent)
    dialog.show_page(name)
    dialog.show()
    return dialog


def about_text() -> str:
    """Return what the program is, its version, its licence, and what it is made of with the licences of that."""
    lines = [f"Bicentra {__version__}", "MIT licence. It comes without any warranty.", "",
             "Brakes can kill. Have design and finished work checked by someone qualified, and follow local rules.", "",
             "Letters: IBM Plex, SIL Open Font License 1.1. Made with:"]  # fmt: skip
    lines += [f"{name} {_version(name)}: {licence}" for name, licence in LIBRARIES.items()]
    return "\n".join(lines)


def _version(name: str) -> str:
    try:
        return metadata(name)["Version"]
    except PackageNotFoundError:
        return "(not found)"
