// What every printed page of ours is made of, and the sheet itself: it is printed alone, and as one of the handouts of a class.
#let sizes = (a4: (width: 210mm, height: 297mm), letter: (width: 215.9mm, height: 279.4mm))
#let paper-size(paper) = sizes.at(paper)
#let margin = (x: 9mm, y: 8mm)
#let gutter = 5mm

#let page-text(body) = {
  set text(font: "Atkinson Hyperlegible Next", lang: "en", number-width: "tabular")
  set par(leading: 0.42em, spacing: 0.55em)
  body
}

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


// One sheet, in the first of its type sizes with which it is one page.
#let sheet-body(sheet) = {
  let paper = paper-size(sheet.paper)
  let inner = (width: paper.width - 2 * margin.x, height: paper.height - 2 * margin.y)
  let left-handed = sheet.left_handed
  let columns-count = if sheet.large { 1 } else { 2 }
  let column-width = (inner.width - (columns-count - 1) * gutter) / columns-count

  let step-block(each, face) = block(
    breakable: false,
    width: column-width,
    below: 0pt,
    above: 0pt,
    inset: (y: 0.35em),
    stroke: (top: 0.4pt + luma(150)),
    // A stack lays each part out once, a grid twice: it is tried at several type sizes.
    stack(
      dir: if left-handed { rtl } else { ltr },
      spacing: 2mm,
      drawing(each.face, each.where, width: face),
      block(width: column-width - face - 2mm, step-body(each)),
    ),
  )

  let chapter-line(name) = block(
    breakable: false, width: column-width, below: 0.2em, above: 0.5em, inset: (top: 0.5em), sticky: true,
    heading(level: 2, text(size: 0.85em, weight: "bold", fill: luma(40), upper(name))),
  )

  let step-rows(face) = {
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

  let head(face) = grid(
    columns: if left-handed { (1fr, face) } else { (face, 1fr) },
    column-gutter: 4mm,
    ..{
      let words = {
        heading(level: 1, text(size: 1.5em, sheet.title))
        v(0.1em)
        [#sheet.aim \ #sheet.figures]
        if sheet.caution != none { parbreak(); [*#sheet.caution.lead* #sheet.caution.says] }
        parbreak()
        [*Lay out:* #sheet.products.map(product).join([, ]). #sheet.tools #sheet.clean_ends]
      }
      let picture = drawing(sheet.picture, sheet.picture_alt, width: face)
      if left-handed { (words, picture) } else { (picture, words) }
    }
  )

  let foot-words = {
    if sheet.later.len() > 0 [*Later:* #sheet.later.join(" ") \ ]
    [*Hygiene and safety.* #sheet.hygiene *#sheet.codes*]
    text(fill: luma(70))[ #sheet.made]
    if sheet.look != "" [ \ #sheet.look]
  }
  let foot = if sheet.qr == "" { foot-words } else {
    grid(columns: (1fr, 17mm), column-gutter: 3mm, foot-words, drawing(sheet.qr, sheet.look, width: 17mm))
  }

  let sized(size, body) = { set text(size: size); body }
  let top(size) = block(width: inner.width, sized(size, head(size * 5.4)))
  let last(size) = block(width: inner.width, inset: (top: 0.4 * size), stroke: (top: 0.6pt + black), sized(size, foot))

  // Both columns as nearly of one height as the steps allow: no step is cut.
  let columns(size) = {
    let rows = step-rows(size * 3.6).map(row => block(width: column-width, sized(size, row)))
    let heights = rows.map(row => measure(row).height)
    let total = heights.sum(default: 0pt)
    let (best, at, sum) = (total, rows.len(), 0pt)
    for (place, height) in heights.enumerate() {
      sum += height
      let longer = calc.max(sum, total - sum)
      if longer <= best { (best, at) = (longer, place + 1) }
    }
    (height: best, both: (rows.slice(0, at), rows.slice(at)))
  }

  context if columns-count == 1 {
    let size = sheet.sizes.first() * 1pt
    top(size)
    sized(size, for row in step-rows(size * 3.6) { row })
    last(size)
  } else {
    let fits(size) = {
      let whole = columns(size).height + measure(top(size)).height + measure(last(size)).height + size
      whole <= inner.height
    }
    // The sizes fall: the first that fits is found by halving, the last is taken where none does.
    let (from, to) = (0, sheet.sizes.len() - 1)
    while from < to {
      let middle = calc.quo(from + to, 2)
      if fits(sheet.sizes.at(middle) * 1pt) { to = middle } else { from = middle + 1 }
    }
    let size = sheet.sizes.at(from) * 1pt
    [#metadata(size.pt()) <type-size>]
    let (first, second) = columns(size).both
    stack(
      dir: ttb,
      spacing: 0.5 * size,
      top(size),
      stack(dir: ltr, spacing: gutter, stack(dir: ttb, ..first), stack(dir: ttb, ..second)),
      last(size),
    )
  }
}

#let slip-margin = (x: 12mm, y: 10mm)
#let line-to-fill(width) = box(width: width, stroke: (bottom: 0.5pt + black), height: 1em)

// The slip: what to look for, at which hours, with a face to draw on.
#let slip-body(slip) = {
  set text(font: "Atkinson Hyperlegible Next", lang: "en", size: 9.5pt, number-width: "tabular")
  set par(leading: 0.5em, spacing: 0.6em)

  grid(
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
  v(1mm)
  grid(
    columns: (1fr, 1fr),
    column-gutter: 5mm,
    row-gutter: 3mm,
    ..slip.signs.map(sign => [*#sign.words*: #sign.looks]),
  )
  v(1mm)

  let look(words) = block(
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
  for words in slip.looks { look(words) }
  v(1fr)
  [*Next time:* #line-to-fill(100% - 24mm)]
  parbreak()
  text(size: 0.85em, fill: luma(60))[#slip.care]
}
