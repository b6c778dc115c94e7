"""The Shelf room: the kit, by hand and as a table; what a film and an ingredient list say before an item is kept."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import numpy as np
from flask import Response
from sqlalchemy.orm import Session

from nabrel.core.case.product import Product
from nabrel.core.case.tool import OwnedTool
from nabrel.core.errors import Impossible, Refused
from nabrel.core.face.skin import depth_class
from nabrel.core.film.films import contrast_ratio, over
from nabrel.core.film.spectra import Floats, lab_of, surface, to_hex
from nabrel.core.shelf.age import standing
from nabrel.core.shelf.drawdown import read_drawdown
from nabrel.core.shelf.facts import open_facts
from nabrel.core.shelf.generic import generic_kit
from nabrel.core.shelf.guessing import USUAL_SKIN, DescribedItem, described_item, guess_lines
from nabrel.core.shelf.ingredients import ReadList, read_list
from nabrel.core.shelf.optics import film_for
from nabrel.core.shelf.tools import NamedKit, tool_standing, tool_words
from nabrel.core.shelf.twins import twins
from nabrel.core.solve.stripe import from_stripe
from nabrel.core.terms.colour import Lab
from nabrel.formats.checks import check_product
from nabrel.formats.colour_text import rounded
from nabrel.formats.kit_csv import KitRow, read_kit, write_kit
from nabrel.formats.values import dumped_value, filled
from nabrel.store.repositories import Kit
from nabrel.store.shelf import NamedKits, Tools, merge_items, take_off
from nabrel.store.versions import Missing
from nabrel.web.shared import present
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import database, download, house
from nabrel.web.shared.uploads import taken_file
from nabrel.web.shelf import answers as ws

shelf = Endpoints("shelf", __name__, url_prefix="/api/kit", tag="shelf")

LIGHT_SKIN: Lab = (68.0, 10.0, 16.0)
DEEP_SKIN: Lab = (38.0, 13.0, 15.0)


@shelf.get("", "kit")
def get_kit() -> ws.KitWire:
    """Every item on the shelf."""
    with database().session() as session:
        return kit_wire(session)


@shelf.put("/items/<name>", "put_item")
def put_item(path: w.NamePath, query: w.OnVersion, body: Product) -> ws.KitWire:
    """Put an item on the shelf, in the place of the one with its id if there is one."""
    item = body
    if item.id != path.name:
        raise Refused("id", item.id, f"the id in the address, {path.name}")
    check_product(item, "item")
    with database().session() as session:
        Kit(session).put(item, query.version)
        return kit_wire(session)


@shelf.delete("/items/<name>", "remove_item")
def delete_item(path: w.NamePath, query: w.OnVersion) -> ws.KitWire:
    """Take an item off the shelf and out of every named kit; plans keep the kit they were made with."""
    with database().session() as session:
        take_off(session, path.name, query.version)
        return kit_wire(session)


@shelf.post("/merge", "merge_items")
def post_merge(body: ws.MergeBody) -> ws.KitWire:
    """Make one item of two."""
    with database().session() as session:
        merge_items(session, body.into, body.other)
        return kit_wire(session)


@shelf.put("/kits/<name>", "put_named_kit")
def put_named_kit(path: w.NamePath, query: w.OnVersion, body: NamedKit) -> ws.KitWire:
    """Keep a named part of the shelf."""
    if body.id != path.name:
        raise Refused("id", body.id, f"the id in the address, {path.name}")
    with database().session() as session:
        NamedKits(session).put(body, query.version)
        return kit_wire(session)


@shelf.delete("/kits/<name>", "remove_named_kit")
def delete_named_kit(path: w.NamePath, query: w.OnVersion) -> ws.KitWire:
    """Delete a named kit; its items stay on the shelf."""
    with database().session() as session:
        NamedKits(session).remove(path.name, query.version)
        return kit_wire(session)


@shelf.get("/tools", "tools")
def get_tools() -> ws.ToolsWire:
    """Every tool that is owned, and whether it may touch the next sitter."""
    with database().session() as session:
        return _tools(session)


@shelf.put("/tools/<name>", "put_tool")
def put_tool(path: w.NamePath, query: w.OnVersion, body: OwnedTool) -> ws.ToolsWire:
    """Keep a tool, in the place of the one with its id if there is one."""
    if body.id != path.name:
        raise Refused("id", body.id, f"the id in the address, {path.name}")
    with database().session() as session:
        Tools(session).put(body, query.version)
        return _tools(session)


@shelf.delete("/tools/<name>", "remove_tool")
def delete_tool(path: w.NamePath, query: w.OnVersion) -> ws.ToolsWire:
    """Take a tool out."""
    with database().session() as session:
        Tools(session).remove(path.name, query.version)
        return _tools(session)


@shelf.get("/table", "export_kit")
def get_table() -> Response:
    """The shelf as CSV."""
    with database().session() as session:
        return download(write_kit(Kit(session).all()), "kit.csv", "text/csv")


@shelf.post("/preview", "preview_kit")
def post_preview() -> ws.TableWire:
    """What each row of a CSV table would do; nothing is saved."""
    rows = read_kit(taken_file())
    with database().session() as session:
        owned = {item.id: item for item in Kit(session).all()}
    return ws.TableWire(rows=[_told(row, owned) for row in rows])


@shelf.post("/table", "take_kit")
def post_table(query: ws.TakeQuery) -> ws.TakenWire:
    """Take a CSV table in: new items are added, changed ones replaced. All of it, or nothing."""
    rows = read_kit(taken_file())
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
    return ws.TakenWire(added=added, changed=changed, left_out=len(wrong))


@shelf.post("/ingredients", "read_ingredients")
def post_ingredients(body: ws.IngredientsBody) -> ReadList:
    """What a pasted ingredient list says: base with its evidence, allergen groups."""
    return read_list(body.text)


@shelf.post("/described", "describe_item")
def post_described(body: ws.DescribedBody) -> ws.GuessedItemWire:
    """An item from a few words, with what is usual for the rest, marked as guessed; nothing is saved."""
    with database().session() as session:
        owned = {item.id: item for item in Kit(session).all()}
    lab, lab_sd = body.lab, body.lab_sd
    if body.like is not None:
        if body.like not in owned:
            raise Missing("like", body.like, "the id of an item on the shelf")
        judged = from_stripe(owned[body.like], None, body.nudges, house())
        lab, lab_sd = rounded(judged.lab), judged.lab_sd
    said = DescribedItem(
        body.name.strip() or body.name, body.role, lab, lab_sd, body.hue, body.cover, body.texture,
        skin=body.skin or USUAL_SKIN,
    )  # fmt: skip
    item = described_item(said, house(), owned)
    check_product(item, "item")
    return ws.GuessedItemWire(item=item, swatch=present.swatches({item.id: item}).get(item.id))


@shelf.post("/pasted", "read_pasted")
def post_pasted(body: ws.PastedBody) -> ws.PastedWire:
    """A pasted list as it is understood, an item a line; nothing is saved."""
    with database().session() as session:
        owned = [item.id for item in Kit(session).all()]
    found = guess_lines(body.text, house(), body.skin or USUAL_SKIN, owned)
    swatches = present.swatches({each.item.id: each.item for each in found if each.item is not None})
    return ws.PastedWire(
        lines=[
            filled(ws.PastedLineWire, each, swatch=swatches.get(each.item.id) if each.item is not None else None)
            for each in found
        ]
    )


@shelf.post("/items", "add_items")
def post_items(body: ws.ItemsBody) -> ws.KitWire:
    """Put items on the shelf beside those there; all of them, or none. One whose id is taken gets the next free one."""
    for number, item in enumerate(body.items):
        check_product(item, f"items[{number}]")
    with database().session() as session:
        Kit(session).take_in(body.items)
        return kit_wire(session)


@shelf.post("/generic", "add_generic_kit")
def post_generic(body: ws.GenericBody) -> ws.KitWire:
    """Put the generic kit for a skin on the shelf, marked as guessed: something to start from."""
    decided = house()
    items = [
        replace(item, source="guessed", lab_sd=decided.guess_sd_de if item.lab else None)
        for item in generic_kit(body.skin)
    ]
    with database().session() as session:
        Kit(session).take_in(items)
        return kit_wire(session)


@shelf.post("/drawdown", "read_drawdown")
def post_drawdown(body: ws.DrawdownBody) -> ws.DrawdownWire:
    """Colour and cover measured instead of guessed, from readings over a black and a white card."""
    found = read_drawdown(body.over_black, body.over_white, body.film_um, house())
    return ws.DrawdownWire(lab=found.lab, cover=found.cover)


@shelf.post("/film", "preview_film")
def post_film(body: Product) -> ws.FilmPreviewWire:
    """What an item's film does at the standard thickness; nothing is saved. Refuses items without colour and cover."""
    item = body
    check_product(item, "item")
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
    return ws.FilmPreviewWire(
        masstone=masstone,
        over_black=black,
        over_white=white,
        light_skin=light_skin,
        over_light_skin=light,
        deep_skin=deep_skin,
        over_deep_skin=deep,
        contrast_ratio=round(contrast_ratio(film, decided.standard_film_um, decided.white_ground), 3),
    )


def kit_wire(session: Session) -> ws.KitWire:
    """The shelf as it stands, with what its room shows of it."""
    items = Kit(session).all()
    decided, today = house(), date.today()
    return ws.KitWire(
        items=list(items),
        swatches=present.swatches({item.id: item for item in items}),
        depths={item.id: depth_class(item.lab) for item in items if item.lab is not None},
        standing={item.id: standing(item, today, decided) for item in items},
        open_facts={item.id: found for item in items if (found := list(open_facts(item)))},
        twins=[ws.TwinsWire(into=each.into.id, other=each.other.id, why=each.why) for each in twins(items, decided)],
        kits=NamedKits(session).all(),
        versions=Kit(session).versions(),
        kit_versions=NamedKits(session).versions(),
    )


def _tools(session: Session) -> ws.ToolsWire:
    found: list[ws.ToolWire] = []
    versions = Tools(session).versions()
    for tool in Tools(session).all():
        now = tool_standing(tool, date.today(), house())
        found.append(
            ws.ToolWire(tool=tool, words=tool_words(tool), ready=now.ready, says=now.says, version=versions[tool.id])
        )
    return ws.ToolsWire(tools=found)


def _told(row: KitRow, owned: dict[str, Product]) -> ws.TableRowWire:
    if row.item is None:
        return ws.TableRowWire(line=row.line, name=row.name, status="problem", says=str(row.refused), swatch=None)
    swatch = present.swatches({row.item.id: row.item}).get(row.item.id)
    mine = owned.get(row.item.id)
    if mine is None:
        twin = next((each.name for each in owned.values() if each.name.lower() == row.item.name.lower()), None)
        says = f"New. Another item is called {twin} too." if twin else "New."
        return ws.TableRowWire(line=row.line, name=row.name, status="new", says=says, swatch=swatch)
    if mine == row.item:
        return ws.TableRowWire(line=row.line, name=row.name, status="same", says="No change.", swatch=swatch)
    was, now = dumped_value(mine), dumped_value(row.item)
    fields = ", ".join(name.replace("_", " ") for name in was if was[name] != now[name])
    return ws.TableRowWire(line=row.line, name=row.name, status="changed", says=f"Changes {fields}.", swatch=swatch)
