"""A card in pages, each made when it is first opened."""

import math
from collections.abc import Callable
from typing import NamedTuple

from PyQt6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QPushButton,
    QSizePolicy,
    QStackedWidget,
    QWidget,
)

from isometron.ui.parts.card import EditCard, Shown
from isometron.ui.parts.page import Page
from isometron.ui.parts.wishes import Wishes

WIDE, NEEDED, NONE = (
    QSizePolicy.Policy.Preferred,
    QSizePolicy.Policy.Minimum,
    QSizePolicy.Policy.Ignored,
)


SIDE_BY_SIDE = 7
"""More pages than this are named in two rows."""


class Leaf(NamedTuple):
    """One page of a card: its title, a tip, and how it is made."""

    title: str
    tip: str
    make: Callable[[Wishes], Page]


class PagedCard(EditCard):
    """A card whose lower part turns to one of its LEAVES."""

    LEAVES: tuple[Leaf, ...] = ()

    def __init__(self, wishes: Wishes, title: str) -> None:
        super().__init__(wishes, title)
        self._pages: dict[int, Page] = {}
        self._shown: Shown | None = None
        self.stack = QStackedWidget()
        self.page_buttons: list[QPushButton] = []

    def lay_pages(self) -> None:
        """Lay the row of page buttons and the pages below what the card has so far."""
        rows = math.ceil(len(self.LEAVES) / SIDE_BY_SIDE)
        group = QButtonGroup(self)
        row = QHBoxLayout()
        for number, leaf in enumerate(self.LEAVES):
            if number % math.ceil(len(self.LEAVES) / rows) == 0:
                row = QHBoxLayout()
                row.setSpacing(0)
                row.setContentsMargins(0, 0 if number else 4, 0, 0)
                self.body.addLayout(row)
            button = small_button(leaf.title, leaf.tip)
            button.setProperty("page", True)
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, n=number: self.open_page(n))
            group.addButton(button)
            row.addWidget(button, button.sizeHint().width())  # as much air beside long words
            self.page_buttons.append(button)
        self.body.addWidget(self.stack, 1)
        self.open_page(0)

    def page(self, number: int) -> Page:
        """A page, made when it is first opened."""
        if number not in self._pages:
            made = self.LEAVES[number].make(self.wishes)
            self.stack.addWidget(made)
            self._pages[number] = made
        return self._pages[number]

    def open_page(self, number: int) -> None:
        """Turn to a page."""
        page = self.page(number)
        self.page_buttons[number].setChecked(True)
        for other in self._pages.values():  # a page that is not open asks for no room
            other.setSizePolicy(*((WIDE, NEEDED) if other is page else (NONE, NONE)))
        self.stack.setCurrentWidget(page)
        self._show_page()

    def page_of(self, widget: QWidget) -> int | None:
        """Number of the page a widget stands on."""
        return next((n for n, page in self._pages.items() if page.isAncestorOf(widget)), None)

    def show_document(self, shown: Shown) -> None:
        self._shown = shown
        self._show_page()

    def _show_page(self) -> None:
        page = self.stack.currentWidget()
        if isinstance(page, Page) and self._shown is not None:
            page.show_document(self._shown)


def small_button(text: str, tip: str) -> QPushButton:
    """A small button with a tip that assistive technology reads too."""
    button = QPushButton(text)
    button.setToolTip(tip)
    button.setAccessibleDescription(tip)
    button.setProperty("small", True)
    return button
