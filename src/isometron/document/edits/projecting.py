"""Flat and curved sheets: which one, and edits of a curved sheet by its flat twin.

Every edit of the set-up is told for a flat sheet. A curved sheet is edited as the flat one with the
same eye: what is changed is the eye or the framework, and both sheets share these."""

from dataclasses import replace

from isometron.document.document import Document, Edit


def flat_twin(document: Document) -> Document:
    """The document with its view in work on a flat sheet."""
    return _with_curved(document, False) if document.eye.curved else document


def _with_curved(document: Document, curved: bool) -> Document:
    views = list(document.views)
    view = views[document.view]
    before = None if view.before is None else replace(view.before, curved=curved)
    views[document.view] = replace(view, eye=replace(view.eye, curved=curved), before=before)
    return replace(document, views=tuple(views))


class Projecting:
    """The edit that draws the view in work curved, or flat again."""

    def __init__(self, *, curved: bool) -> None:
        self.curved = curved

    def __call__(self, document: Document) -> Document:
        """The document drawn so."""
        if document.eye.curved == self.curved:
            return document
        return _with_curved(document, self.curved)


def applied(edit: Edit, document: Document) -> Document:
    """An edit done: on a curved sheet by its flat twin, unless it is about that."""
    if isinstance(edit, Projecting) or not document.eye.curved:
        return edit(document)
    twin = flat_twin(document)
    after = edit(twin)
    if after is twin or after == twin:
        return document
    if after.view == document.view and len(after.views) == len(document.views):
        return _with_curved(after, True)
    return _views_curved(document, after)


def _views_curved(document: Document, after: Document) -> Document:
    """After views have come or gone: those called as a curved one before are curved."""
    known = {view.name for view in document.views if view.eye.curved}
    views = tuple(
        replace(view, eye=replace(view.eye, curved=True)) if view.name in known else view
        for view in after.views
    )
    return replace(after, views=views)
