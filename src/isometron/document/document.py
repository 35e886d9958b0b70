"""The document: one sheet seen from one eye, with its volumes and the person's choices."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from isometron.document.begun import Begun, few_begun, kept_begun
from isometron.document.building import Building
from isometron.document.by_hand import kept_round, refuse_unless_free, turns_of, with_faces_kept
from isometron.document.errors import ChoiceError, within
from isometron.document.finish import Finish
from isometron.document.kit import Kit
from isometron.document.light import Light, Shading
from isometron.document.own_bands import OwnBand, fair_bands
from isometron.document.picture import MOST_PICTURES, Laid, SheetPicture
from isometron.document.variants import Variant, fair_variants
from isometron.document.view import View
from isometron.framework.aids import Aid
from isometron.framework.box import AXES
from isometron.framework.dimensions import Dimension
from isometron.framework.intentions.intention import (
    TRUE_MM,
    Edited,
    Intention,
    MovedAlong,
    Parts,
    moved_by,
)
from isometron.framework.moving_together import moved_together
from isometron.framework.settling import Modules, reheld, settle, try_anew
from isometron.framework.volume import Volume
from isometron.perspective.errors import IntentionError, VolumeError
from isometron.perspective.eye import LARGEST_MM, Eye
from isometron.perspective.lengths import MM_PER
from isometron.perspective.sheet import Sheet
from isometron.words import _

CONE_RANGE_DEG = (10.0, 120.0)
"""Full angles of the cone of vision a person may choose."""

DEFAULT_CONE_DEG = 60.0
"""The usual cone of vision; cautious people use 40° to 50°."""

MOST_VIEWS = 24
"""More views than this do not fit on one sheet."""

MOST_VOLUMES = 2000
"""More volumes than this are not a framework but a mistake."""

MOST_DIMENSIONS = 200

MOST_INTENTIONS = 500

PATIENT_ROUNDS = 3
"""Ties of places that are not at rest after so many are made true all at once."""

MOST_ROUNDS = 12
"""Intentions that pull at each other longer than this do not come to rest."""

UNITS = ("mm", "cm", "in")
"""Units the sheet can be read in."""


@dataclass(frozen=True)
class Choices:
    """What the person has chosen for this sheet: units, limits of judgement, what is drawn."""

    unit: str = "cm"
    cone_deg: float = DEFAULT_CONE_DEG
    see_through: bool = True
    fans: bool = True
    ellipse_aids: bool = True
    diagonal_point: bool = False

    def __post_init__(self) -> None:
        if self.unit not in UNITS or self.unit not in MM_PER:
            raise ChoiceError(
                _("“{unit}” is not a unit here: use one of {units}.").format(
                    unit=self.unit, units=", ".join(UNITS)
                )
            )
        within(_("The cone of vision"), self.cone_deg, CONE_RANGE_DEG, "°")


@dataclass(frozen=True)
class Document:
    """Everything about one sheet. `views` are the eyes it is drawn from, `view` the number of the
    one in work. `yaw_deg` is the lie of the set-up: the direction that new volumes, and an empty
    sheet's vanishing points, take. `selected` is the volume in work, `also` the others chosen with
    it. `origin_mm` is the world place that typed places are counted from. `picture` is the number
    of the picture in work. `shading` says how the values of its light are shown, `finish` how the
    framework is brought to a base drawing."""

    sheet: Sheet = field(default_factory=Sheet)
    views: tuple[View, ...] = (View(),)
    view: int = 0
    volumes: tuple[Volume, ...] = ()
    selected: int | None = None
    yaw_deg: float = 0.0
    choices: Choices = field(default_factory=Choices)
    modules: Modules = ()
    aids: tuple[Aid, ...] = ()
    also: frozenset[int] = frozenset()
    building: Building = field(default_factory=Building)
    circle: int | None = None
    """Number of the circle in work among those of the volume in work; None for its first one."""
    origin_mm: tuple[float, float, float] = (0.0, 0.0, 0.0)
    kit: Kit = field(default_factory=Kit)
    aside: frozenset[str] = frozenset()
    """Remarks the person has set aside for this sheet, by rule and volume (`Remark.key`)."""
    dimensions: tuple[Dimension, ...] = ()
    """Measures pinned to the sheet; they go with their volumes."""
    light: Light | None = None
    shading: Shading = field(default_factory=Shading)
    finish: Finish = field(default_factory=Finish)
    pictures: tuple[SheetPicture, ...] = ()
    picture: int = 0
    intentions: tuple[Intention, ...] = ()
    """What its parts were meant to be to each other: true after every edit."""
    begun: tuple[Begun, ...] = ()
    """What starters were told that can be opened again."""
    bands: tuple[OwnBand, ...] = ()
    """Bands of proportion of this sheet's own, before the usual ones."""
    variants: tuple[Variant, ...] = ()
    """Other versions of its framework; `variant` is the number of the one in hand among them."""
    variant: int = 0
    beneath: bool = False
    """Whether the other variants lie pale under the one in hand."""
    answer: int = field(default=0, compare=False)
    """Which of the ways to keep intentions true is taken first: for one edit, then 0 again."""

    def __post_init__(self) -> None:
        if not 1 <= len(self.views) <= MOST_VIEWS or not 0 <= self.view < len(self.views):
            raise ChoiceError(
                _("A sheet has 1 to {most_views} views, and one of them is worked in.").format(
                    most_views=MOST_VIEWS
                )
            )
        if not all(math.isfinite(v) and abs(v) <= LARGEST_MM for v in self.origin_mm):
            raise ChoiceError(_("The ground origin is out of reach: keep it within a kilometre."))
        if len(self.volumes) > MOST_VOLUMES:
            raise ChoiceError(
                _(
                    "{volumes} volumes are more than one sheet carries: keep to {most_volumes}."
                ).format(volumes=len(self.volumes), most_volumes=MOST_VOLUMES)
            )
        if self.selected is not None and not 0 <= self.selected < len(self.volumes):
            raise ChoiceError(_("The picked volume is not on this sheet: pick one that is."))
        others = {i for i in self.also if i != self.selected}
        if any(not 0 <= i < len(self.volumes) for i in others) or (
            others and self.selected is None
        ):
            raise ChoiceError(_("A chosen volume is not on this sheet: choose those that are."))
        object.__setattr__(self, "also", frozenset(others))
        if len({volume.key for volume in self.volumes}) < len(self.volumes):
            object.__setattr__(self, "volumes", _told_apart(self.volumes))
        if len(self.pictures) > MOST_PICTURES:
            raise ChoiceError(
                _("A sheet carries {most} pictures: take one off first.").format(most=MOST_PICTURES)
            )
        if self.picture and self.picture >= len(self.pictures):
            object.__setattr__(self, "picture", max(len(self.pictures) - 1, 0))
        few_begun(self.begun)
        fair_bands(self.bands)
        fair_variants(self.variants, self.variant)
        if len(self.intentions) > MOST_INTENTIONS:
            raise ChoiceError(
                _("A sheet keeps {most} intentions: let some go first.").format(
                    most=MOST_INTENTIONS
                )
            )
        if len(self.dimensions) > MOST_DIMENSIONS:
            raise ChoiceError(
                _("A sheet carries {most} measures: take some off first.").format(
                    most=MOST_DIMENSIONS
                )
            )

    @property
    def eye(self) -> Eye:
        """The eye of the view in work."""
        return self.views[self.view].eye

    def with_eye(self, eye: Eye) -> "Document":
        """The document with another eye in the view in work."""
        views = list(self.views)
        views[self.view] = replace(views[self.view], eye=eye)
        return replace(self, views=tuple(views))

    @property
    def volume(self) -> Volume | None:
        """The volume in work: the selected one."""
        return None if self.selected is None else self.volumes[self.selected]

    @property
    def photograph(self) -> SheetPicture | None:
        """The picture in work."""
        return self.pictures[self.picture] if self.pictures else None

    @property
    def laid(self) -> Laid | None:
        """How the picture in work lies under the sheet, where it does."""
        return None if self.photograph is None else self.photograph.laid

    @property
    def lead(self) -> Volume | None:
        """The volume the set-up is told by: the selected one, else the first."""
        return self.volume or (self.volumes[0] if self.volumes else None)

    @property
    def lead_yaw_deg(self) -> float:
        """Yaw of the directions the set-up is told by."""
        return self.yaw_deg if self.lead is None else self.lead.yaw_deg

    @property
    def chosen(self) -> tuple[int, ...]:
        """Numbers of all chosen volumes, in the order of the list."""
        lead = set() if self.selected is None else {self.selected}
        return tuple(sorted(lead | self.also))

    def by_key(self, key: int) -> Volume | None:
        """The volume with a key, if it is on this sheet."""
        return next((volume for volume in self.volumes if volume.key == key), None)

    @property
    def free_key(self) -> int:
        """A key that no volume has."""
        return 1 + max((volume.key for volume in self.volumes), default=-1)

    def same_work(self, other: "Document") -> bool:
        """Whether two documents differ in nothing but which volumes are chosen."""
        nothing: frozenset[int] = frozenset()
        bare = {"selected": None, "also": nothing, "circle": None, "picture": 0}
        return replace(self, **bare) == replace(other, **bare)  # type: ignore[arg-type]

    def with_volume(self, index: int, volume: Volume) -> "Document":
        """The document with one volume replaced, which becomes the one in work."""
        also = self.also if index in self.chosen else frozenset[int]()
        same = self.circle if index == self.selected else None
        return replace(self.with_each({index: volume}), selected=index, also=also, circle=same)

    def with_each(self, changed: Mapping[int, Volume]) -> "Document":
        """The document with some volumes replaced, and everything that hangs on them settled.

        A volume that has been moved is held anew to what it stands on; counts follow sides changed
        by hand. Raises VolumeError for a locked volume, or a copy changed otherwise than with its
        source.
        """
        return self.settled(self._with_changes(changed))

    def _with_changes(self, changed: Mapping[int, Volume]) -> list[Volume]:
        """The volumes with some replaced, nothing settled yet."""
        volumes = list(self.volumes)
        for index, volume in changed.items():
            volumes[index] = with_faces_kept(
                self.volumes[index], kept_round(self.volumes[index], volume)
            )
            refuse_unless_free(self.volumes[index], volumes[index])
        for index in changed:
            volumes[index] = self._recounted(self.volumes[index], volumes[index], volumes)
        for index in changed:
            volumes[index] = self._held(self.volumes[index], volumes[index], volumes)
        return volumes

    def _recounted(self, before: Volume, after: Volume, volumes: list[Volume]) -> Volume:
        """A volume whose sides were changed by hand, counted in the same lengths as before."""
        if after.counts != before.counts or after.sides == before.sides:
            return after
        modules = {module.name: module.mm for module in self.modules}
        sides = {
            f"{volume.name}.{axis}": mm
            for volume in reversed(volumes)
            for axis, mm in zip(AXES, volume.sides, strict=True)
        }
        lengths = modules | sides | dict(zip(AXES, after.sides, strict=True))
        width, depth, height = (
            count if count is None or mm == was else count.giving(mm, lengths)
            for count, mm, was in zip(after.counts, after.sides, before.sides, strict=True)
        )
        return replace(after, counts=(width, depth, height))

    def _held(self, before: Volume, after: Volume, volumes: list[Volume]) -> Volume:
        same_place = (before.place, *turns_of(before)) == (after.place, *turns_of(after))
        if after.on is None or after.on != before.on or same_place:
            return after
        return reheld(after, lambda key: next((v for v in volumes if v.key == key), None))

    def settled(self, volumes: Sequence[Volume], modules: Modules | None = None) -> "Document":
        """The document with these volumes (and modules), everything that hangs on them settled and
        every intention true. Raises VolumeError where one cannot be."""
        meant = bool(self.intentions)
        done = self._settled(volumes, modules, tried=not meant)
        if meant:
            done = done._kept_true(self, volumes)
            done._try_anew(self)
        return done

    def _try_anew(self, before: "Document") -> None:
        """Raise VolumeError for a volume that cannot be as its intentions want it."""
        known = set(map(id, before.volumes))
        for volume in (one for one in self.volumes if id(one) not in known):
            try:
                try_anew([volume], ())
            except VolumeError as error:
                told = [one.told(self.parts) for one in self.intentions if volume.key in one.keys]
                if not told:
                    raise
                raise IntentionError(_disagree(told)) from error

    def _settled(
        self, volumes: Sequence[Volume], modules: Modules | None = None, *, tried: bool = True
    ) -> "Document":
        given = self.modules if modules is None else modules
        done, known = settle(volumes, given, self.volumes, tried=tried)
        there = {volume.key for volume in done}
        kept = tuple(one for one in self.dimensions if there.issuperset(one.keys))
        meant = tuple(one for one in self.intentions if there.issuperset(one.keys))
        return replace(
            self,
            volumes=done,
            modules=known,
            dimensions=kept,
            intentions=meant,
            begun=kept_begun(self.begun, there),
        )

    @property
    def parts(self) -> dict[int, Volume]:
        """Its volumes by their keys."""
        return {volume.key: volume for volume in self.volumes}

    def _kept_true(self, before: "Document", by_hand: Sequence[Volume]) -> "Document":
        """This document with its intentions made true. by_hand: the volumes as a hand left them,
        before they were settled."""
        was, known = before.parts, set(map(id, before.volumes))
        if set(map(id, self.volumes)) <= known:
            return self
        changed = {
            one.key: one for one in by_hand if id(one) not in known and was.get(one.key) != one
        }
        done, parts = self, self.parts
        meant = tuple(
            one.followed(was, parts) if was.keys() >= set(one.keys) else one
            for one in self.intentions
        )
        done = replace(done, intentions=tuple(one for one in meant if not _lost(one, parts)))
        at_odds: set[Intention] = set()
        for number in range(MOST_ROUNDS):
            parts = done.parts
            broken = [one for one in done.intentions if one.miss_mm(parts) > TRUE_MM]
            if not broken:
                return done
            if number > 1:
                at_odds |= set(broken)
            if number == (0 if done._tangled(broken) and not self.answer else PATIENT_ROUNDS):
                done = done._moved_together(changed)
                continue
            for one in broken:
                if one.miss_mm(done.parts) > TRUE_MM:
                    done = done._made_true(one, Edited(was, changed, done.parts))
        told = [one.told(parts) for one in done.intentions if one in at_odds]
        raise IntentionError(_disagree(told))

    def _tangled(self, broken: Sequence[Intention]) -> bool:
        """Whether ties of places that are broken hang on others of their like, so that mending one
        by one is not the least."""
        pulled = [set(one.pulls) for one in self.intentions if isinstance(one, MovedAlong)]
        keys = {key for one in broken if isinstance(one, MovedAlong) for key in one.pulls}
        return sum(not keys.isdisjoint(one) for one in pulled) > 1

    def _moved_together(self, by_hand: Parts) -> "Document":
        """This document with all ties of places true at once, by the least moves; as it is where
        there are no such moves."""
        ties = [one for one in self.intentions if isinstance(one, MovedAlong)]
        if not ties:
            return self
        index = {volume.key: number for number, volume in enumerate(self.volumes)}
        parts = self.parts
        try:
            moves = moved_together(parts, ties, by_hand.keys())
            changed = {index[key]: moved_by(parts[key], by) for key, by in moves.items()}
            return self._settled(self._with_changes(changed), tried=False)
        except VolumeError:
            return self

    @property
    def begun_with(self) -> Begun | None:
        """What the volume in work was begun with, if with a starter."""
        if self.volume is None:
            return None
        return next((one for one in self.begun if self.volume.key in one.keys), None)

    def with_intention(self, one: Intention) -> "Document":
        """The document with one more intention, made true. Raises VolumeError where it cannot
        be."""
        if one in self.intentions:
            return self
        meant = replace(self, intentions=(*self.intentions, one))
        parts = self.parts
        if one.miss_mm(parts) > TRUE_MM:
            made = meant._made_true(one, Edited(parts, {}, parts))
            meant = made._kept_true(self, [])
            meant._try_anew(self)
        return meant

    def _made_true(self, one: Intention, edited: Edited) -> "Document":
        """This document with one intention made true in the first way that does. Raises
        IntentionError."""
        index = {volume.key: number for number, volume in enumerate(self.volumes)}
        ways = one.ways(edited)
        turn = self.answer % len(ways)
        for way in (*ways[turn:], *ways[:turn]):
            try:
                changed = {index[volume.key]: volume for volume in way(edited.now)}
                done = self._settled(self._with_changes(changed), tried=False)
            except VolumeError:
                continue
            if one.miss_mm(done.parts) <= TRUE_MM:
                return done
        try:
            changed = {index[v.key]: v for v in one.together(self._besides(one), edited)}
            done = self._settled(self._with_changes(changed), tried=False)
        except VolumeError as error:
            raise IntentionError(_disagree([one.told(edited.now)])) from error
        if one.miss_mm(done.parts) <= TRUE_MM:
            return done
        raise IntentionError(_disagree([one.told(edited.now)]))

    def _besides(self, one: Intention) -> list[Intention]:
        """The other intentions that something which one ties has a part in."""
        return [other for other in self.intentions if other != one and {*other.keys} & {*one.keys}]

    def proved(self) -> "Document":
        """The document with every volume tried, none taken on trust. Raises VolumeError for one
        that cannot be."""
        volumes, modules = settle(self.volumes, self.modules)
        there = {volume.key for volume in volumes}
        return replace(
            self,
            variants=tuple(map(_proved_variant, self.variants)),
            volumes=volumes,
            modules=modules,
            intentions=tuple(one for one in self.intentions if there.issuperset(one.keys)),
            begun=kept_begun(self.begun, there),
        )


def _proved_variant(one: Variant) -> Variant:
    """A variant with every volume tried. Raises VolumeError for one that cannot be."""
    volumes, modules = settle(_told_apart(one.volumes), one.modules)
    there = {volume.key for volume in volumes}
    return replace(
        one,
        volumes=volumes,
        modules=modules,
        dimensions=tuple(two for two in one.dimensions if there.issuperset(two.keys)),
        intentions=tuple(two for two in one.intentions if there.issuperset(two.keys)),
        begun=kept_begun(one.begun, there),
    )


def _lost(one: Intention, parts: Parts) -> bool:
    """Whether what an intention is about is no more."""
    return math.isnan(one.miss_mm(parts))


def _disagree(told: Sequence[str]) -> str:
    if len(told) == 1:
        return _("{one}: with that it cannot. Let it go on the slip, or change less.").format(
            one=told[0]
        )
    return _("{all} disagree: let one of them go on the slip, or change less.").format(
        all="; ".join(told)
    )


def _told_apart(volumes: tuple[Volume, ...]) -> tuple[Volume, ...]:
    taken = {volume.key for volume in volumes}
    seen: set[int] = set()
    told = []
    for volume in volumes:
        key = volume.key
        if key in seen:
            key = 1 + max(taken)
        taken.add(key)
        seen.add(key)
        told.append(volume if key == volume.key else replace(volume, key=key))
    return tuple(told)


Edit = Callable[[Document], Document]
"""A step: document → document, or an IsometronError whose message is the sentence to show."""
