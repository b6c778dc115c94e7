"""The printed card: to print it, to read pictures of it, and to put several pictures together. Nothing of a picture is kept."""

from __future__ import annotations

from pathlib import Path
from threading import Lock

import numpy as np
from flask import Response, g

import nabrel.demo
from nabrel.core.card.layout import MIDDLE, Card, Printer, by_known_grey, calibrated, card, house_card
from nabrel.core.card.markers import Flat
from nabrel.core.card.reading import CardReading, CellReading, SeenColour, luminance_of, pooled, read_flat
from nabrel.core.card.skin import SkinSeen, skin_seen
from nabrel.core.errors import Told
from nabrel.core.face.measuring import LESS_SURE, Place, SkinReading, newest, place_words
from nabrel.core.face.skin import depth_class
from nabrel.core.film.difference import delta_e
from nabrel.core.film.spectra import to_hex
from nabrel.core.house import House
from nabrel.core.shelf.photographed import BEYOND, PhotographedFilm, compared, likely
from nabrel.core.terms.colour import Lab
from nabrel.demo.pictures import PICTURES
from nabrel.formats.files import DecidedParameter
from nabrel.formats.values import filled
from nabrel.store.house_rules import HouseRules
from nabrel.store.repositories import Kit
from nabrel.store.skin_readings import SkinReadings
from nabrel.store.versions import Missing
from nabrel.web.card import answers as wc
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.requests import database, download, heavy, house
from nabrel.web.shared.uploads import taken_file

card_room = Endpoints("card", __name__, url_prefix="/api", tag="card")
SHIPPED = Path(nabrel.demo.__file__).parent / "pictures"
_one_at_a_time = Lock()
"""A picture is large once it is opened: two at the same moment would be twice that."""


@card_room.get("/card", "print_card")
def get_card(query: wc.CardQuery) -> Response:
    """The card to print, as a PDF."""
    from nabrel.formats.sheet.card import card_pdf  # noqa: PLC0415 - only who prints pays for it

    made = card_pdf(house_card(query.size, house()), query.paper)
    return download(made, f"{query.size}-card.pdf", "application/pdf")


@card_room.get("/card/samples", "card_samples")
def get_samples() -> wc.SamplesWire:
    """Pictures to try it with, made by the simulated camera."""
    return _samples()


@card_room.post("/card/grey", "read_grey")
def post_grey(query: wc.GreyQuery) -> wc.PrinterWire:
    """What a picture with a known grey in the window says of the printer; nothing is saved."""
    seen = heavy("picture", _grey, taken_file(), card(query.size), house())
    printer = by_known_grey(seen, query.known, query.white, query.black)
    middle = printer.middle or 0.0
    return wc.PrinterWire(
        white=printer.paper,
        black=printer.ink,
        middle=middle,
        seen=round(seen, 3),
        says=f"The middle grey gives back {middle:.0%}; {MIDDLE:.0%} was assumed.".replace("%", " %"),
    )


@card_room.put("/card/printer", "decide_printer")
def put_printer(body: wc.PrinterBody) -> wc.SamplesWire:
    """Decide what the house's printer gives back: all of it or nothing. House rules show it, and can take it back."""
    calibrated(card(), Printer(body.white, body.black, body.middle))
    with database().session() as session:
        rules = HouseRules(session)
        for name, value in (("card_white", body.white), ("card_black", body.black), ("card_middle", body.middle)):
            if value is None:
                rules.reset("parameter", name)
            else:
                rules.decide_parameter(name, DecidedParameter(value, body.note))
    g.pop("nabrel_house", None)
    return _samples()


def _samples() -> wc.SamplesWire:
    decided = house()
    return wc.SamplesWire(
        samples=[
            wc.SampleWire(address=f"/api/card/samples/{each.name}", size=each.size, words=each.words)
            for each in PICTURES
        ],
        film_um=decided.card_film_um,
        calibrated=house_card("kit", decided).calibrated,
        white=decided.card_white,
        black=decided.card_black,
        middle=decided.card_middle,
    )


@card_room.get("/card/samples/<name>", "card_sample")
def get_sample(path: w.NamePath) -> Response:
    """One of those pictures."""
    if path.name not in {each.name for each in PICTURES}:
        raise Missing("name", path.name, "one of " + ", ".join(each.name for each in PICTURES))
    return Response((SHIPPED / path.name).read_bytes(), mimetype="image/jpeg")


@card_room.post("/card/picture", "read_card")
def post_picture(query: wc.PictureQuery) -> wc.CardPictureWire:
    """What a picture of a card says (JPEG, PNG, WebP or HEIC body). Refuses one that cannot be read well, and says what to do."""
    return heavy("picture", _picture, taken_file(), house_card(query.size, house()), house())


def _grey(data: bytes, printed: Card, house: House) -> float:
    """What the grey in the window of a picture gives back."""
    found = read_flat(_flat(data, printed), printed, house)
    if found.window is None:
        raise Told(
            "photo",
            "Nothing grey can be read in the window.",
            " ".join(found.because) or "Lay the grey you know over it.",
        )
    return luminance_of(found.window.lab)


def _picture(data: bytes, printed: Card, house: House) -> wc.CardPictureWire:
    """What a picture of a card says."""
    from nabrel.formats.photo import crop_of  # noqa: PLC0415 - Pillow is loaded only where there are pictures

    flat = _flat(data, printed)
    found = read_flat(flat, printed, house)
    return wc.CardPictureWire(
        cells=[
            filled(
                wc.CellPictureWire,
                said,
                over_white=_seen(said.over_white),
                over_black=_seen(said.over_black),
                crop=crop_of(flat, cell.whole) if said.filled else None,
            )
            for cell, said in zip(printed.cells, found.cells, strict=True)
        ],
        window=_seen(found.window),
        window_crop=crop_of(flat, printed.window) if found.window or found.because else None,
        because=list(found.because),
    )


@card_room.post("/card/pooled", "pool_pictures")
def post_pooled(body: wc.PooledBody) -> wc.PooledWire:
    """Pictures of one card put together: masstone and cover of every film, beside what the shelf has so far."""
    printed = house_card("kit", house())
    known = {each.id: each for each in printed.cells}
    for number, picture in enumerate(body.pictures):
        for place, cell in enumerate(picture.cells):
            if cell.id not in known:
                raise Missing(f"pictures[{number}].cells[{place}].id", cell.id, "a cell of the card")
    readings = tuple(_reading(picture, tuple(known)) for picture in body.pictures)
    found = pooled(readings, printed, house(), body.film_um)
    with database().session() as session:
        items = Kit(session).all()
    films: list[wc.FilmReadWire] = []
    for each in found.cells:
        if each.masstone is None or each.masstone_sd is None or each.contrast_ratio is None:
            continue
        film = PhotographedFilm(each.masstone, each.masstone_sd, each.cover, each.cover_sd)
        nearest = compared(items, film)
        films.append(
            filled(
                wc.FilmReadWire,
                film,
                cell=each.id,
                hex=_hex(film.lab),
                depth=depth_class(film.lab),
                contrast_ratio=each.contrast_ratio,
                because=each.because,
                against=[filled(wc.AgainstWire, a) for a in nearest],
                likely=likely(items, film),
            )
        )
    return wc.PooledWire(films=films)


@card_room.post("/sitters/<id>/skin-pictures", "pool_skin")
def post_skin(path: w.IdPath, body: wc.SkinPicturesBody) -> wc.SkinPicturesWire:
    """Windows of several pictures put together, place by place, beside what was read there before; nothing is kept."""
    with database().session() as session:
        before = newest(each for _, each in SkinReadings(session).of(path.id))
    by: dict[Place, list[SeenColour]] = {}
    for take in body.takes:
        by.setdefault(take.place, []).append(SeenColour(take.lab, take.sd))
    return wc.SkinPicturesWire(
        places=[
            _place(place, skin_seen(takes, house()), len(takes), before.get((place, "colour")))
            for place, takes in by.items()
        ]
    )


def _flat(data: bytes, printed: Card) -> Flat:
    """The card in a picture, laid flat."""
    from nabrel.core.card.markers import flattened  # noqa: PLC0415 - OpenCV and Pillow are loaded only where there are pictures
    from nabrel.formats.photo import opened_picture  # noqa: PLC0415

    with _one_at_a_time:
        return flattened(opened_picture(data), printed)


def _place(place: Place, found: SkinSeen, takes: int, before: SkinReading | None) -> wc.SkinPlaceWire:
    said, confirms = "", False
    if before is not None and before.lab is not None:
        de = float(delta_e(np.array(found.seen.lab), np.array(before.lab)))
        said = f"ΔE00 {de:.1f} from the reading of {before.day.isoformat()}."
        confirms = before.source not in LESS_SURE and de < BEYOND * found.seen.sd
        if confirms:
            said += " That was by an instrument, and is surer: this picture agrees with it."
    return filled(
        wc.SkinPlaceWire,
        found,
        place=place,
        words=place_words(place),
        lab=found.seen.lab,
        hex=_hex(found.seen.lab),
        sd=found.seen.sd,
        takes=takes - len(found.far),
        depth=depth_class(found.seen.lab),
        before=said,
        confirms=confirms,
    )


def _reading(picture: wc.CardPictureBody, cells: tuple[str, ...]) -> CardReading:
    seen = {each.id: each for each in picture.cells}
    return CardReading(
        tuple(
            CellReading(
                name,
                filled=True,
                over_white=SeenColour(seen[name].over_white.lab, seen[name].over_white.sd),
                over_black=SeenColour(seen[name].over_black.lab, seen[name].over_black.sd),
            )
            if name in seen
            else CellReading(name, filled=False)
            for name in cells
        ),
        None,
    )


def _seen(found: SeenColour | None) -> wc.SeenColourWire | None:
    return None if found is None else wc.SeenColourWire(lab=found.lab, sd=found.sd, hex=_hex(found.lab))


def _hex(lab: Lab) -> str:
    return to_hex(np.array([lab]))[0]
