// The slip that a sitter takes along and fills in. What it says comes whole from the core, as JSON; here it is only laid out.
#let slip = json(bytes(sys.inputs.sheet))
#let paper = (a4: (210mm, 297mm), letter: (215.9mm, 279.4mm)).at(slip.paper)

#set document(title: slip.title, date: none)
#set page(width: paper.at(0), height: paper.at(1), margin: (x: 12mm, y: 10mm))
#set text(font: "Atkinson Hyperlegible Next", lang: "en", size: 9.5pt, number-width: "tabular")
#set par(leading: 0.5em, spacing: 0.6em)

#let drawing(svg, alt, ..size) = image(bytes(svg), format: "svg", alt: alt, ..size)
#let line-to-fill(width) = box(width: width, stroke: (bottom: 0.5pt + black), height: 1em)

#grid(
  columns: (1fr, 30mm),
  column-gutter: 5mm,
  {
    heading(level: 1, text(size: 1.4em, slip.title))
    slip.asks
    parbreak()
    [Put on: #line-to-fill(45mm) #h(4mm) Warmest: #line-to-fill(18mm) °C]
    parbreak()
    [*0* #slip.nothing #h(2mm) *1, 2, 3* #slip.grades]
  },
  if slip.qr != "" { drawing(slip.qr, slip.link, width: 28mm) } else { [] },
)
#v(1mm)
#grid(
  columns: (1fr, 1fr),
  column-gutter: 5mm,
  row-gutter: 3mm,
  ..slip.signs.map(sign => [*#sign.words*: #sign.looks]),
)
#v(1mm)

#let look(words) = block(
  breakable: false,
  width: 100%,
  inset: (top: 2mm),
  stroke: (top: 0.5pt + luma(120)),
  grid(
    columns: (24mm, 1fr),
    column-gutter: 4mm,
    drawing(slip.face, "A face to draw on", width: 24mm),
    {
      strong(words)
      v(0.5mm)
      table(
        columns: (1.7fr,) + (1fr,) * slip.signs.len(),
        stroke: 0.4pt + luma(120),
        inset: 3pt,
        table.header([], ..slip.signs.map(sign => text(size: 0.85em, sign.words))),
        ..slip.regions.map(region => (region,) + ([],) * slip.signs.len()).flatten(),
      )
      [In words: #line-to-fill(100% - 20mm)]
    },
  ),
)
#for words in slip.looks { look(words) }
#v(1fr)
*Next time:* #line-to-fill(100% - 24mm)
#parbreak()
#text(size: 0.85em, fill: luma(60))[#slip.care]
