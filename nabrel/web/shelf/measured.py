"""Films read from a photograph put on the shelf: what that changes in plans that stand, and keeping it, all or nothing."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated

from annotated_types import MaxLen, MinLen
from pydantic import Field
from sqlalchemy.orm import Session

from nabrel.core.ask.measured import changed_by, with_colours
from nabrel.core.case.product import Product
from nabrel.core.errors import Refused
from nabrel.core.shelf.photographed import PhotographedFilm, measured_item, new_item
from nabrel.core.terms.colour import Lab
from nabrel.core.terms.ids import Role
from nabrel.core.terms.limits import LIMITS, Ident, one_line
from nabrel.core.terms.words import join_words
from nabrel.formats.checks import check_product
from nabrel.store.repositories import Kit, Sequences
from nabrel.store.versions import Missing
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.plan_changes import MOST_SAID, PlanChangesWire, plan_changes
from nabrel.web.shared.requests import database, house
from nabrel.web.shared.wire import Body
from nabrel.web.shelf import answers as ws
from nabrel.web.shelf.endpoints import kit_wire

shelf_measured = Endpoints("shelf_measured", __name__, url_prefix="/api/kit/measured", tag="shelf")
MOST_FILMS = 60
"""Films taken in at once."""


class FilmBody(Body):
    """One film: where it goes (an item and the version it was seen in, or a new one), and what was read."""

    item: Ident | None = None
    version: Annotated[int, Field(ge=0)] = 0
    name: Annotated[str, one_line(120, least=1)]
    role: Role
    lab: Lab
    lab_sd: Annotated[float, Field(ge=0, le=20)]
    cover: Annotated[float, Field(ge=LIMITS.cover.low, le=LIMITS.cover.high)] | None = None
    cover_sd: Annotated[float, Field(ge=0, le=1)] | None = None


class FilmsBody(Body):
    """Films that are to be taken in."""

    films: Annotated[tuple[FilmBody, ...], MinLen(1), MaxLen(MOST_FILMS)]


class PlanOnBody(Body):
    """A plan as it was seen."""

    id: Ident
    revision: Annotated[int, Field(ge=1)]


class TakeInBody(FilmsBody):
    """Films to take in, and plans that take the colours over too."""

    plans: Annotated[tuple[PlanOnBody, ...], MaxLen(MOST_SAID)] = ()


@shelf_measured.post("/preview", "preview_measured")
def post_preview(body: FilmsBody) -> PlanChangesWire:
    """What these colours change in plans that lay the items; nothing is saved."""
    with database().session() as session:
        items = {item.id: item for item in _items(session, body)}
    return plan_changes(None, lambda now: changed_by(now, items, house()))


@shelf_measured.post("", "take_measured")
def post_films(body: TakeInBody) -> ws.KitWire:
    """Put these colours on the shelf, and into plans that are named, as a new version of each that undo takes back."""
    with database().session() as session:
        kit, sequences = Kit(session), Sequences(session)
        items = tuple(_items(session, body))
        for film, item in zip(body.films, items, strict=True):
            kit.put(item, film.version if film.item is not None else 0)
        by_id = {item.id: item for item in items}
        for each in body.plans:
            sequences.assert_head_revision(each.id, each.revision)
            before = sequences.get(each.id).sequence
            after = with_colours(before, by_id)
            pairs = zip(before.case.kit, after.case.kit, strict=True)
            if names := [own.name for own, fresh in pairs if own != fresh]:
                says = f"Colours as photographed: {join_words(names[:4])}"
                sequences.save(each.id, each.revision, after, says)
        return kit_wire(session)


def _items(session: Session, body: FilmsBody) -> Iterator[Product]:
    """The items that these films make. Refuses unknown ones, and one item for two films."""
    owned = {item.id: item for item in Kit(session).all()}
    taken = set(owned)
    used: set[str] = set()
    for number, film in enumerate(body.films):
        read = PhotographedFilm(film.lab, film.lab_sd, film.cover, film.cover_sd)
        if film.item is None:
            item = new_item(film.name.strip() or film.name, film.role, read, house(), taken)
            taken.add(item.id)
        elif film.item not in owned:
            raise Missing(f"films[{number}].item", film.item, "the id of an item on the shelf")
        elif film.item in used:
            raise Refused(f"films[{number}].item", owned[film.item].name, "an item that no other film was taken for")
        else:
            used.add(film.item)
            item = measured_item(owned[film.item], read)
        check_product(item, f"films[{number}]")
        yield item
