// The sheet one works from. What it says comes whole from the core, as JSON; here it is only laid out.
#let sheet = json(bytes(sys.inputs.sheet))
#let paper = (a4: (210mm, 297mm), letter: (215.9mm, 279.4mm)).at(sheet.paper)
#let margin = (x: 9mm, y: 8mm)
#let inner = (width: paper.at(0) - 2 * margin.x, height: paper.at(1) - 2 * margin.y)
#let left-handed = sheet.left_handed
#let columns-count = if sheet.large { 1 } else { 2 }
#let gutter = 5mm
#let column-width = (inner.width - (columns-count - 1) * gutter) / columns-count

#set document(title: sheet.title, date: none)
#set page(width: paper.at(0), height: paper.at(1), margin: margin)
#set text(font: "Atkinson Hyperlegible Next", lang: "en", number-width: "tabular")
#set par(leading: 0.42em, spacing: 0.55em)

#let drawing(svg, alt, ..size) = image(bytes(svg), format: "svg", alt: alt, ..size)
#let swatch(hex) = box(width: 0.8em, height: 0.8em, baseline: 0.1em, fill: rgb(hex), stroke: 0.4pt + black)
#let product(each) = {
  if each.hex != none { swatch(each.hex); h(0.25em) }
  each.name
}

#let hand(each) = {
  let drawn = each.drawings.map(d => box(baseline: 0.25em, drawing(d.svg, d.alt, height: 1.15em))).join(h(0.15em))
  let said = each.words
  if each.drawings.len() > 0 { drawn; h(0.3em) }
  [#each.says#if said != "" [ #text(fill: luma(70))[#said.]]]
}

#let step-body(each) = {
  set par(justify: false)
  [*#each.number  #each.title*#if each.take != "" [, #each.take]#if each.products.len() > 0 [: #each.products.map(product).join(", ")]]
  for one in each.hands { linebreak(); hand(one) }
  let after = (each.cues + (each.wait,)).filter(t => t != "")
  if after.len() > 0 or each.check != "" {
    linebreak()
    if after.len() > 0 { strong(after.join(" ")); [ ] }
    if each.check != "" [*Check:* #each.check]
  }
  if each.why != "" { linebreak(); emph(each.why) }
}

#let step-block(each, face) = block(
  breakable: false,
  width: column-width,
  below: 0pt,
  above: 0pt,
  inset: (y: 0.35em),
  stroke: (top: 0.4pt + luma(150)),
  grid(
    columns: if left-handed { (1fr, face) } else { (face, 1fr) },
    column-gutter: 2mm,
    ..(
      if left-handed { (step-body(each), drawing(each.face, each.where, width: face)) } else {
        (drawing(each.face, each.where, width: face), step-body(each))
      }
    )
  ),
)

#let chapter-line(name) = block(
  breakable: false, width: column-width, below: 0.2em, above: 0.5em, inset: (top: 0.5em), sticky: true,
  heading(level: 2, text(size: 0.85em, weight: "bold", fill: luma(40), upper(name))),
)

#let step-rows(face) = {
  let rows = ()
  let chapter = ""
  for each in sheet.steps {
    if each.chapter != chapter {
      chapter = each.chapter
      rows.push((chapter-line(chapter), step-block(each, face)))
    } else { rows.push((step-block(each, face),)) }
  }
  rows.map(parts => stack(dir: ttb, ..parts.map(p => p), spacing: 0.15em))
}

#let head(face) = grid(
  columns: if left-handed { (1fr, face) } else { (face, 1fr) },
  column-gutter: 4mm,
  ..{
    let words = {
      heading(level: 1, text(size: 1.5em, sheet.title))
      v(0.1em)
      [#sheet.aim \ #sheet.figures]
      parbreak()
      [*Lay out:* #sheet.products.map(product).join([, ]). #sheet.tools #sheet.clean_ends]
    }
    let picture = drawing(sheet.picture, sheet.picture_alt, width: face)
    if left-handed { (words, picture) } else { (picture, words) }
  }
)

#let foot-words = {
  if sheet.later.len() > 0 [*Later:* #sheet.later.join(" ") \ ]
  [*Hygiene and safety.* #sheet.hygiene *#sheet.codes*]
  text(fill: luma(70))[ #sheet.made]
  if sheet.look != "" [ \ #sheet.look]
}
#let foot = if sheet.qr == "" { foot-words } else {
  grid(columns: (1fr, 17mm), column-gutter: 3mm, foot-words, drawing(sheet.qr, sheet.look, width: 17mm))
}

#let whole(face, size) = {
  set text(size: size)
  let rows = step-rows(face)
  let heights = rows.map(row => measure(block(width: column-width, { set text(size: size); row })).height)
  head(face * 1.5)
  v(0.5em)
  if columns-count == 1 { for row in rows { row } } else {
    // Both columns as nearly of one height as the steps allow: no step is cut.
    let total = heights.sum(default: 0pt)
    let (best, at, sum) = (total, rows.len(), 0pt)
    for (place, height) in heights.enumerate() {
      sum += height
      let longer = calc.max(sum, total - sum)
      if longer <= best { (best, at) = (longer, place + 1) }
    }
    grid(columns: (column-width, column-width), column-gutter: gutter,
      stack(dir: ttb, ..rows.slice(0, at)), stack(dir: ttb, ..rows.slice(at)))
  }
  v(0.5em)
  block(width: 100%, inset: (top: 0.4em), stroke: (top: 0.6pt + black), foot)
}

#context {
  let fits(size) = measure(block(width: inner.width, whole(size * 3.6, size))).height <= inner.height
  let size = sheet.sizes.map(s => s * 1pt).find(fits)
  if size == none { size = sheet.sizes.last() * 1pt }
  [#metadata(size.pt()) <type-size>]
  whole(size * 3.6, size)
}
