"""The Shelf room: the kit, by hand and as a table; what a film and an ingredient list say before an item is kept."""

from __future__ import annotations

import numpy as np
from flask import Response, request
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag

from nabrel.core.case import Lab, Product
from nabrel.core.errors import Impossible, Refused
from nabrel.core.film.films import contrast_ratio, over
from nabrel.core.film.spectra import Floats, lab_of, surface, to_hex
from nabrel.core.kit.drawdown import read_drawdown
from nabrel.core.kit.ingredients import read_list
from nabrel.core.kit.optics import film_for
from nabrel.formats import convert
from nabrel.formats import models as m
from nabrel.formats.kit_csv import Row, read_kit, write_kit
from nabrel.store.repositories import Kit
from nabrel.web import present
from nabrel.web import wire as w
from nabrel.web.failures import UnsupportedType
from nabrel.web.rooms import REFUSALS, database, download, house

shelf = APIBlueprint("shelf", __name__, url_prefix="/api/kit", abp_tags=[Tag(name="shelf")], abp_responses=REFUSALS)

LIGHT_SKIN: Lab = (68.0, 10.0, 16.0)
DEEP_SKIN: Lab = (38.0, 13.0, 15.0)


@shelf.get("", operation_id="kit", responses={200: w.KitWire})
def get_kit() -> w.KitWire:
    """Every item on the shelf."""
    with database().session() as session:
        return _kit(Kit(session).all())


@shelf.put("/items/<name>", operation_id="put_item", responses={200: w.KitWire})
def put_item(path: w.NamePath, body: m.ProductModel) -> w.KitWire:
    """Put an item on the shelf, in the place of the one with its id if there is one."""
    if body.id != path.name:
        raise Refused("id", body.id, f"the id in the address, {path.name}")
    item = convert.product_from(body)
    convert.check_product(item, "item")
    with database().session() as session:
        Kit(session).put(item)
        return _kit(Kit(session).all())


@shelf.delete("/items/<name>", operation_id="remove_item", responses={200: w.KitWire})
def delete_item(path: w.NamePath) -> w.KitWire:
    """Take an item off the shelf; plans keep the kit they were made with."""
    with database().session() as session:
        Kit(session).remove(path.name)
        return _kit(Kit(session).all())


@shelf.get("/table", operation_id="export_kit", responses={200: None})
def get_table() -> Response:
    """The shelf as CSV."""
    with database().session() as session:
        return download(write_kit(Kit(session).all()), "kit.csv", "text/csv")


@shelf.post("/preview", operation_id="preview_kit", responses={200: w.TableWire})
def post_preview() -> w.TableWire:
    """What each row of a CSV table would do; nothing is saved."""
    rows = read_kit(_table())
    with database().session() as session:
        owned = {item.id: item for item in Kit(session).all()}
    return w.TableWire(rows=[_told(row, owned) for row in rows])


@shelf.post("/table", operation_id="take_kit", responses={200: w.TakenWire})
def post_table(query: w.TakeQuery) -> w.TakenWire:
    """Take a CSV table in: new items are added, changed ones replaced. All of it, or nothing."""
    rows = read_kit(_table())
    wrong = [row for row in rows if row.refused is not None]
    if wrong and not query.leave_out:
        raise Impossible(f"line {wrong[0].line}", wrong[0].name, str(wrong[0].refused))
    added = changed = 0
    with database().session() as session:
        kit = Kit(session)
        owned = {item.id: item for item in kit.all()}
        for item in (row.item for row in rows if row.item is not None):
            added += item.id not in owned
            changed += item.id in owned and owned[item.id] != item
            kit.put(item)
    return w.TakenWire(added=added, changed=changed, left_out=len(wrong))


@shelf.post("/ingredients", operation_id="read_ingredients", responses={200: w.IngredientsWire})
def post_ingredients(body: w.IngredientsBody) -> w.IngredientsWire:
    """What a pasted ingredient list says: base with its evidence, allergen groups."""
    found = read_list(body.text)
    return w.IngredientsWire(
        ingredients=list(found.ingredients),
        base=found.base,
        evidence=list(found.evidence),
        says=found.says,
        allergens=list(found.allergens),
    )


@shelf.post("/drawdown", operation_id="read_drawdown", responses={200: w.DrawdownWire})
def post_drawdown(body: w.DrawdownBody) -> w.DrawdownWire:
    """Colour and cover measured instead of guessed, from readings over a black and a white card."""
    found = read_drawdown(body.over_black, body.over_white, body.film_um, house())
    return w.DrawdownWire(lab=found.lab, cover=found.cover)


@shelf.post("/film", operation_id="preview_film", responses={200: w.FilmPreviewWire})
def post_film(body: m.ProductModel) -> w.FilmPreviewWire:
    """What an item's film does at the standard thickness; nothing is saved. Refuses items without colour and cover."""
    item = convert.product_from(body)
    convert.check_product(item, "item")
    if not item.tinted:
        raise Impossible("cover", None, "an item with a colour and a cover")
    decided = house()
    film = film_for(item, decided)
    power = film.s * decided.standard_film_um
    grounds: Floats = np.stack(
        [
            np.full_like(film.s, 0.001),
            np.full_like(film.s, decided.white_ground),
            surface(LIGHT_SKIN),
            surface(DEEP_SKIN),
        ]
    )
    black, white, light, deep = to_hex(lab_of(over(grounds, film.ratio, power)))
    masstone, light_skin, deep_skin = to_hex(np.array([item.lab, LIGHT_SKIN, DEEP_SKIN]))
    return w.FilmPreviewWire(
        masstone=masstone,
        over_black=black,
        over_white=white,
        light_skin=light_skin,
        over_light_skin=light,
        deep_skin=deep_skin,
        over_deep_skin=deep,
        contrast_ratio=round(contrast_ratio(film, decided.standard_film_um, decided.white_ground), 3),
    )


def _kit(items: tuple[Product, ...]) -> w.KitWire:
    return w.KitWire(
        items=[convert.product_to(item) for item in items],
        swatches=present.swatches({item.id: item for item in items}),
    )


def _told(row: Row, owned: dict[str, Product]) -> w.TableRowWire:
    if row.item is None:
        return w.TableRowWire(line=row.line, name=row.name, status="problem", says=str(row.refused), swatch=None)
    swatch = present.swatches({row.item.id: row.item}).get(row.item.id)
    mine = owned.get(row.item.id)
    if mine is None:
        twin = next((each.name for each in owned.values() if each.name.lower() == row.item.name.lower()), None)
        says = f"New. Another item is called {twin} too." if twin else "New."
        return w.TableRowWire(line=row.line, name=row.name, status="new", says=says, swatch=swatch)
    if mine == row.item:
        return w.TableRowWire(line=row.line, name=row.name, status="same", says="As it stands.", swatch=swatch)
    was, now = convert.product_to(mine).model_dump(), convert.product_to(row.item).model_dump()
    fields = ", ".join(name.replace("_", " ") for name in was if was[name] != now[name])
    return w.TableRowWire(line=row.line, name=row.name, status="changed", says=f"Changes {fields}.", swatch=swatch)


def _table() -> bytes:
    if request.mimetype not in ("text/csv", "application/octet-stream", "text/plain"):
        raise UnsupportedType("Content-Type", request.mimetype or "nothing", "text/csv")
    return request.get_data()
