"""Edits of the views of a sheet: added, taken in work, framed, laid out on the page."""

import math
from dataclasses import replace

import numpy as np

from isometron.document.document import MOST_VIEWS, Document
from isometron.document.errors import ChoiceError
from isometron.document.view import Frame, View
from isometron.nearness import NEAR
from isometron.perspective.eye import Array, Eye
from isometron.perspective.projection import project
from isometron.words import _, said

FREE_SHARE = 0.1
"""A drawing laid into a frame keeps this share of it free on every side."""

GAP_MM, EDGE_MM, CAPTION_MM = 8.0, 10.0, 9.0
"""Between frames laid out on the page, from the paper's edge, and for the words below each."""

PAIR_TILT_DEG, PAIR_REACH = 30.0, 2.4
"""How far a worm looks up and a bird down, and how far off, in half sizes of what they look at."""

LEAST_FRAME_MM = 15.0
FIRST_SCALE = 0.1
SIDES = (said("front"), said("side"), said("rear"), said("other side"), said("plan"))
"""Unforeshortened views: the front looks along the longer way of what stands there, from our end;
the side across it, from our side."""


def choose_view(document: Document, number: int) -> Document:
    """Another view in work. Raises ChoiceError for one without an eye to work from."""
    return workable(replace(document, view=min(max(number, 0), len(document.views) - 1)))


def workable(document: Document) -> Document:
    """A document whose view in work has an eye to work from. Raises ChoiceError otherwise."""
    if document.eye.parallel is not None:
        raise ChoiceError(
            _("A plan or an elevation has no eye to work from: work in another view.")
        )
    return document


def next_view(document: Document) -> Document:
    """The next view that has an eye to work from."""
    count = len(document.views)
    for step in range(1, count):
        number = (document.view + step) % count
        if document.views[number].eye.parallel is None:
            return choose_view(document, number)
    return document


def _changed(document: Document, number: int, view: View) -> Document:
    views = list(document.views)
    views[number] = view
    return replace(document, views=tuple(views))


def _added(document: Document, view: View, places: Array | None = None) -> Document:
    """One more view, in a frame of its own; the others keep what they show."""
    if len(document.views) >= MOST_VIEWS:
        raise ChoiceError(
            _("A sheet carries {most} views: take one off first.").format(most=MOST_VIEWS)
        )
    shared = share_page(replace(document, views=(*document.views, view)))
    if places is None:
        return shared
    last = shared.views[-1]
    assert last.frame is not None
    return _changed(shared, len(shared.views) - 1, _laid_in(shared, last, last.frame, places))


def add_view(document: Document) -> Document:
    """One more view from the same eye; all share the page. Raises ChoiceError."""
    return _added(document, View(_name(document, _("View")), document.eye))


def add_from_behind(document: Document) -> Document:
    """One more view from the other side: the eye carried half round what stands there."""
    middle, eye = _middle(document), document.eye
    x, y = 2 * middle[:2] - (eye.x_mm, eye.y_mm)
    behind = replace(eye, x_mm=float(x), y_mm=float(y), heading_deg=eye.heading_deg + 180.0)
    return _added(document, View(_name(document, _("From behind")), behind))


def add_side(document: Document, side: str) -> Document:
    """One more view without foreshortening: one of SIDES, at a scale that fits. Raises
    ChoiceError."""
    x, y, z = _middle(document).tolist()
    tilt = -90.0 if side == "plan" else 0.0
    eye = Eye(
        x,
        y,
        z,
        _heading(document, side),
        tilt,
        500.0,
        document.eye.centre_of_vision_mm,
        parallel=FIRST_SCALE,
    )
    return _added(document, View(_name(document, _(side).capitalize()), eye))


def _heading(document: Document, side: str) -> float:
    """Where a side of SIDES is looked from."""
    lie = math.radians(document.lead_yaw_deg)
    ways = np.array([[math.cos(lie), math.sin(lie)], [-math.sin(lie), math.cos(lie)]])
    if side == "plan":
        x, y = ways[1]
        return math.degrees(math.atan2(x, y))
    own = _places(document)[:, :2] @ ways.T
    long = int(np.argmax(np.ptp(own, axis=0)))
    way = ways[long if side in ("front", "rear") else 1 - long]
    toward = np.array([document.eye.x_mm, document.eye.y_mm]) - _middle(document)[:2]
    ahead = -way if float(way @ toward) > 0 else way
    if side in ("rear", "other side"):
        ahead = -ahead
    return math.degrees(math.atan2(float(ahead[0]), float(ahead[1])))


def add_detail(document: Document) -> Document:
    """One more view from the same eye, of the volume in work alone, as large as its frame."""
    volume = document.volume
    if volume is None:
        raise ChoiceError(_("A detail shows the picked volume: choose one first."))
    return _added(document, View(_name(document, _("Detail")), document.eye), volume.corners())


def worm_and_bird(document: Document) -> Document:
    """Two views of what stands there, one from below and one from above, that share eye level and
    left and right points: the third point of one lies above, of the other below."""
    places = _places(document)
    middle, reach = _middle(document), float(np.linalg.norm(np.ptp(places, axis=0)) / 2)
    reach = max(reach, 1.0)
    sheet, heading = document.sheet, document.eye.heading_deg
    tilt, off = math.radians(PAIR_TILT_DEG), PAIR_REACH * reach
    d = sheet.height_mm / 4 / math.tan(tilt)
    level, across = sheet.height_mm / 2, sheet.width_mm / 2
    views = []
    for name, sign in ((_("Bird's-eye"), -1.0), (_("Worm's-eye"), 1.0)):
        flat = off * math.cos(tilt)
        x = middle[0] - flat * math.sin(math.radians(heading))
        y = middle[1] - flat * math.cos(math.radians(heading))
        z = middle[2] - sign * off * math.sin(tilt)
        up = level + sign * d * math.tan(tilt)
        eye = Eye(float(x), float(y), float(z), heading, sign * PAIR_TILT_DEG, d, (across, up))
        low = 0.0 if sign < 0 else level
        views.append(View(name, eye, Frame(0.0, low, sheet.width_mm, level)))
    kept = () if len(document.views) == 1 else document.views
    if len(kept) + 2 > MOST_VIEWS:
        raise ChoiceError(
            _("A sheet carries {most} views: take one off first.").format(most=MOST_VIEWS)
        )
    return replace(document, views=(*kept, *views), view=len(kept))


def take_off_view(document: Document) -> Document:
    """The view in work taken off the page; the last one stays. Raises ChoiceError."""
    others = [view for n, view in enumerate(document.views) if n != document.view]
    eyes = [n for n, view in enumerate(others) if view.eye.parallel is None]
    if not eyes:
        raise ChoiceError(_("This is the last view with an eye: a sheet needs one."))
    if len(others) == 1:
        others = [replace(others[0], frame=None)]
    number = min(eyes, key=lambda n: abs(n - document.view))
    return replace(document, views=tuple(others), view=number)


def take_off_numbered(document: Document, number: int) -> Document:
    """A view that is not in work taken off the page."""
    if not 0 <= number < len(document.views) or number == document.view:
        return document
    views = tuple(view for n, view in enumerate(document.views) if n != number)
    return replace(document, views=views, view=document.view - (number < document.view))


def name_view(document: Document, number: int, name: str) -> Document:
    """A view called otherwise. Raises ChoiceError."""
    return _changed(document, number, replace(document.views[number], name=name.strip()))


def frame_of(document: Document, number: int) -> Frame:
    """The frame of a view; the paper where it has none."""
    sheet = document.sheet
    return document.views[number].frame or Frame(0.0, 0.0, sheet.width_mm, sheet.height_mm)


def move_view(document: Document, number: int, frame: Frame) -> Document:
    """A view in another frame: its drawing goes with the frame's lower left corner, and keeps its
    size."""
    view, old = document.views[number], frame_of(document, number)
    x, y = view.eye.centre_of_vision_mm
    moved = (x + frame.left_mm - old.left_mm, y + frame.bottom_mm - old.bottom_mm)
    eye = replace(view.eye, centre_of_vision_mm=moved)
    return _changed(document, number, replace(view, eye=eye, frame=frame))


def set_frame(document: Document, number: int, name: str, mm: float) -> Document:
    """One length of a view's frame. Raises ChoiceError."""
    frame = replace(frame_of(document, number), **{name: mm})
    if min(frame.width_mm, frame.height_mm) < LEAST_FRAME_MM:
        raise ChoiceError(
            _("A view needs {mm} mm each way: make its frame larger.").format(
                mm=round(LEAST_FRAME_MM)
            )
        )
    return move_view(document, number, frame)


def drag_frame(document: Document, corner: int, sheet_mm: tuple[float, float]) -> Document:
    """The frame of the view in work with its lower left (0) or upper right corner (1) carried to a
    place of the sheet; drawing and other corner stay."""
    view, sheet = document.views[document.view], document.sheet
    frame = frame_of(document, document.view)
    left, bottom = frame.left_mm, frame.bottom_mm
    right, top = left + frame.width_mm, bottom + frame.height_mm
    x = min(max(sheet_mm[0], 0.0), sheet.width_mm)
    y = min(max(sheet_mm[1], 0.0), sheet.height_mm)
    if corner == 0:
        left, bottom = min(x, right - LEAST_FRAME_MM), min(y, top - LEAST_FRAME_MM)
    else:
        right, top = max(x, left + LEAST_FRAME_MM), max(y, bottom + LEAST_FRAME_MM)
    framed = replace(view, frame=Frame(left, bottom, right - left, top - bottom))
    return _changed(document, document.view, framed)


def whole_sheet(document: Document, number: int) -> Document:
    """A view that takes the whole sheet again."""
    return _changed(document, number, replace(document.views[number], frame=None))


def to_thirds(document: Document, number: int) -> Document:
    """The edges of a view's frame moved to the nearest thirds of the paper; its drawing is laid
    into it anew."""
    sheet, frame = document.sheet, frame_of(document, number)
    left, wide = _third(frame.left_mm, frame.width_mm, sheet.width_mm)
    bottom, high = _third(frame.bottom_mm, frame.height_mm, sheet.height_mm)
    return _changed(
        document,
        number,
        _laid_in(document, document.views[number], Frame(left, bottom, wide, high)),
    )


def _third(low: float, size: float, whole: float) -> tuple[float, float]:
    first = min(max(round(3 * low / whole), 0), 2)
    last = min(max(round(3 * (low + size) / whole), first + 1), 3)
    return first * whole / 3, (last - first) * whole / 3


def keep_before(document: Document, on: bool) -> Document:
    """The eye as it is stays pale under whatever it becomes; or no longer."""
    view = document.views[document.view]
    return _changed(document, document.view, replace(view, before=view.eye if on else None))


def set_scale(document: Document, number: int, scale: float) -> Document:
    """A plan or elevation drawn to another scale (1 : scale). As it was for a view with an eye."""
    view = document.views[number]
    if view.eye.parallel is None:
        return document
    return _changed(document, number, replace(view, eye=replace(view.eye, parallel=1.0 / scale)))


def share_page(document: Document) -> Document:
    """All views side by side in equal frames, each drawing as large as its frame allows."""
    count, sheet = len(document.views), document.sheet
    if count == 1:
        return whole_sheet(document, 0)
    columns = math.ceil(math.sqrt(count))
    if sheet.lying and count == 2:
        columns = 2
    rows = math.ceil(count / columns)
    wide = (sheet.width_mm - 2 * EDGE_MM - (columns - 1) * GAP_MM) / columns
    high = (sheet.height_mm - 2 * EDGE_MM - (rows - 1) * GAP_MM) / rows - CAPTION_MM
    if min(wide, high) < LEAST_FRAME_MM:
        raise ChoiceError(_("So many views do not fit on this paper: choose a larger sheet."))
    views = []
    for number, view in enumerate(document.views):
        row, column = divmod(number, columns)
        left = EDGE_MM + column * (wide + GAP_MM)
        bottom = sheet.height_mm - EDGE_MM - high - row * (high + CAPTION_MM + GAP_MM)
        frame = Frame(left, bottom, wide, high)
        named = replace(view, name=view.name or _name(document, _("View")))
        if view.frame is None or _whole(document, view):
            views.append(_laid_in(document, named, frame))
        else:
            views.append(_carried(named, view.frame, frame))
    return replace(document, views=tuple(views))


def _whole(document: Document, view: View) -> bool:
    """Whether a view shows all of what stands there within its frame: a detail does not."""
    drawn, frame = project(view.eye, _places(document)).sheet, view.frame
    if frame is None or not np.isfinite(drawn).all():
        return frame is None
    low = np.array([frame.left_mm, frame.bottom_mm])
    high = low + np.array([frame.width_mm, frame.height_mm])
    return bool((drawn >= low - NEAR).all() and (drawn <= high + NEAR).all())


def _laid_in(document: Document, view: View, frame: Frame, places: Array | None = None) -> View:
    """A view in a frame, its drawing (of all that is shown, or of some places) as large as it
    allows, in its middle."""
    drawn = project(view.eye, _places(document) if places is None else places).sheet
    if not np.isfinite(drawn).all():  # it reaches behind the eye: it keeps what it shows
        sheet = document.sheet
        whole = Frame(0.0, 0.0, sheet.width_mm, sheet.height_mm)
        return _carried(view, view.frame or whole, frame)
    low, high = drawn.min(axis=0), drawn.max(axis=0)
    size = np.maximum(high - low, 1e-6)
    room = (1 - 2 * FREE_SHARE) * np.array([frame.width_mm, frame.height_mm])
    grow = float((room / size).min())
    at = _middle_of(frame)
    return _grown(view, grow, (low + high) / 2, at, frame)


def _carried(view: View, old: Frame, frame: Frame) -> View:
    """A view in another frame that shows what it did."""
    grow = min(frame.width_mm / old.width_mm, frame.height_mm / old.height_mm)
    return _grown(view, grow, _middle_of(old), _middle_of(frame), frame)


def _middle_of(frame: Frame) -> Array:
    return np.array(
        [frame.left_mm + frame.width_mm / 2, frame.bottom_mm + frame.height_mm / 2], dtype=float
    )


def _grown(view: View, grow: float, start: Array, end: Array, frame: Frame) -> View:
    """A view drawn so many times as large, a place of the sheet carried to another; the eye it is
    held against goes along."""

    def moved(eye: Eye) -> Eye:
        x, y = (end + grow * (np.array(eye.centre_of_vision_mm) - start)).tolist()
        if eye.parallel is not None:
            return replace(eye, centre_of_vision_mm=(x, y), parallel=eye.parallel * grow)
        far = eye.station_distance_mm * grow
        return replace(eye, centre_of_vision_mm=(x, y), station_distance_mm=far)

    before = None if view.before is None else moved(view.before)
    return replace(view, eye=moved(view.eye), before=before, frame=frame)


def _places(document: Document) -> Array:
    """Corners (n, 3) of all that is shown; of a metre's cube before the eye where nothing is."""
    every = [one.corners() for one in document.volumes if one.shown and not one.ghost]
    if every:
        return np.concatenate(every)
    eye = document.eye
    ahead = 3000.0 * np.array(
        [math.sin(math.radians(eye.heading_deg)), math.cos(math.radians(eye.heading_deg)), 0.0]
    )
    corners = np.array([[x, y, z] for x in (-0.5, 0.5) for y in (-0.5, 0.5) for z in (0.0, 1.0)])
    return np.asarray(1000.0 * corners + ahead + (eye.x_mm, eye.y_mm, 0.0))


def _middle(document: Document) -> Array:
    places = _places(document)
    return np.asarray((places.min(axis=0) + places.max(axis=0)) / 2)


def _name(document: Document, word: str) -> str:
    """A name that no view has."""
    taken = {view.name for view in document.views}
    if word not in taken:
        return word
    return next(name for n in range(2, MOST_VIEWS + 3) if (name := f"{word} {n}") not in taken)
