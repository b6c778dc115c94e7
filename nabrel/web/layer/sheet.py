"""The one-page sheet: its pages to look at, and the same pages as a PDF."""

from __future__ import annotations

from typing import Annotated

from flask import Response, request
from pydantic import Field

from nabrel.core.documents.sheet import sheet_of
from nabrel.core.documents.slip import slip_of
from nabrel.core.errors import Refused
from nabrel.core.face.proportions import proportions_of
from nabrel.core.pace.tasks import Pace
from nabrel.formats.sheet import Paper, Print, sheet_pages, sheet_pdf, slip_pdf
from nabrel.store.repositories import short_code
from nabrel.web.shared import wire as w
from nabrel.web.shared.endpoints import Endpoints
from nabrel.web.shared.guard import is_loopback
from nabrel.web.shared.requests import download, evaluated, house, stored_sequence

sheets = Endpoints("sheets", __name__, url_prefix="/api", tag="layer")


class PrintQuery(w.Query):
    """How a sheet is printed."""

    paper: Paper = "a4"
    large: bool = False
    left_handed: bool = False
    mirrored: bool = False
    pace: Pace = 1.0

    def how(self, plan: str) -> Print:
        """The same as the printing takes it, with where the looks at this plan are noted; no phone reaches a loopback address."""
        link, reached = f"{request.url_root}w/{short_code(plan)}", not is_loopback(request.host.rsplit(":", 1)[0])
        return Print(self.paper, self.large, self.left_handed, self.mirrored, link if reached else "", scanned=reached)


class PagePath(w.IdPath):
    """A plan and a page of its sheet, counted from 1."""

    page: Annotated[int, Field(ge=1, le=99)]


class SheetWire(w.AnswerModel):
    """A sheet: its title, on how many pages, and whose plan it is of."""

    title: str
    pages: int
    sitter_id: str
    nickname: str
    plan: str
    student_pace: float


@sheets.get("/sequences/<id>/sheet", "sheet")
def get_sheet(path: w.IdPath, query: PrintQuery) -> SheetWire:
    """How many pages the sheet of a plan takes."""
    stored = stored_sequence(path.id)
    sheet = sheet_of(evaluated(stored), query.pace)
    nickname = stored.sequence.case.sitter.nickname
    return SheetWire(
        title=sheet.title,
        pages=len(sheet_pages(sheet, query.how(path.id))),
        sitter_id=stored.sitter_id,
        nickname=nickname,
        plan=stored.sequence.title or nickname,
        student_pace=house().student_pace,
    )


@sheets.get("/sequences/<id>/sheet/<page>", "sheet_page")
def get_sheet_page(path: PagePath, query: PrintQuery) -> Response:
    """One page of the sheet as an SVG picture: the very page of the PDF."""
    pages = sheet_pages(sheet_of(evaluated(stored_sequence(path.id)), query.pace), query.how(path.id))
    if path.page > len(pages):
        raise Refused("page", path.page, f"a page of the sheet, 1 to {len(pages)}")
    return Response(pages[path.page - 1], mimetype="image/svg+xml")


@sheets.get("/sequences/<id>/sheet.pdf", "sheet_pdf")
def get_sheet_pdf(path: w.IdPath, query: PrintQuery) -> Response:
    """The sheet as a tagged PDF."""
    stored = stored_sequence(path.id)
    made = sheet_pdf(sheet_of(evaluated(stored), query.pace), query.how(path.id))
    name = stored.sequence.title or stored.sequence.case.sitter.nickname
    return download(made, f"{name}-{stored.sequence.school}.pdf", "application/pdf")


@sheets.get("/sequences/<id>/slip.pdf", "slip_pdf")
def get_slip_pdf(path: w.IdPath, query: PrintQuery) -> Response:
    """The slip that the sitter fills in, as a tagged PDF."""
    stored = stored_sequence(path.id)
    sitter = stored.sequence.case.sitter
    made = slip_pdf(slip_of(evaluated(stored)), query.how(path.id), proportions_of(sitter))
    return download(made, f"{sitter.nickname}-slip.pdf", "application/pdf")
