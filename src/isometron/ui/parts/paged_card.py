"""A card in pages, each made when it is first opened."""

from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QStackedWidget, QWidget

from isometron.document.document import Document
from isometron.drawing.picks import Pick
from isometron.drawing.scene import Scene
from isometron.ui.parts.card import EditCard
from isometron.ui.parts.page import Page
from isometron.ui.parts.theme import Room


class PagedCard(EditCard):
    """A card whose lower part turns to one of some pages. PAGES: title and tip of each."""

    PAGES: tuple[tuple[str, str], ...] = ()

    def __init__(self, room: Room, title: str) -> None:
        super().__init__(room, title)
        self._pages: dict[int, Page] = {}
        self._pick: Pick | None = None
        self._shown: tuple[Document, Scene, tuple[str, str, str]] | None = None
        self.stack = QStackedWidget()
        self.page_buttons: list[QPushButton] = []

    def lay_pages(self) -> None:
        """Lay the row of page buttons and the pages below what the card has so far."""
        row = QHBoxLayout()
        row.setSpacing(0)
        row.setContentsMargins(0, 4, 0, 0)
        group = QButtonGroup(self)
        for number, (title, tip) in enumerate(self.PAGES):
            button = self.small_button(title, tip)
            button.setProperty("page", True)
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, n=number: self.open_page(n))
            group.addButton(button)
            row.addWidget(button, 1)
            self.page_buttons.append(button)
        self.body.addLayout(row)
        self.body.addWidget(self.stack, 1)
        self.open_page(0)

    @staticmethod
    def small_button(text: str, tip: str) -> QPushButton:
        """A small button with a tip that assistive technology reads too."""
        button = QPushButton(text)
        button.setToolTip(tip)
        button.setAccessibleDescription(tip)
        button.setProperty("small", True)
        return button

    def make_page(self, number: int) -> Page:
        """A page, made anew."""
        raise NotImplementedError

    def page(self, number: int) -> Page:
        """A page, made when it is first opened."""
        if number not in self._pages:
            made = self.make_page(number)
            made.wanted.connect(self.wanted)
            made.refused.connect(self.refused)
            made.dragged.connect(self.dragged)
            made.dropped.connect(self.dropped)
            self.stack.addWidget(made)
            self._pages[number] = made
        return self._pages[number]

    def open_page(self, number: int) -> None:
        """Turn to a page."""
        page = self.page(number)
        self.page_buttons[number].setChecked(True)
        self.stack.setCurrentWidget(page)
        self.show_page()

    def page_of(self, widget: QWidget) -> int | None:
        """Number of the page a widget stands on."""
        return next((n for n, page in self._pages.items() if page.isAncestorOf(widget)), None)

    def show_room(self, room: Room) -> None:
        super().show_room(room)
        self.show_page()

    def show_pick(self, pick: Pick | None) -> None:
        """What is picked on the board, for acts on an edge, a face or a circle."""
        self._pick = pick
        for page in self._pages.values():
            page.pick = pick

    def show_document(
        self, document: Document, scene: Scene, families: tuple[str, str, str]
    ) -> None:
        self._shown = (document, scene, families)
        self.show_page()

    def show_page(self) -> None:
        """Show the page that is open."""
        page = self.stack.currentWidget()
        if isinstance(page, Page) and self._shown is not None:
            page.pick = self._pick
            page.show_document(*self._shown, self.room)
