// Everything that a class gets on paper. What it says comes whole from the core, as JSON; here it is only laid out.
#import "parts.typ": drawing, margin, page-text, paper-size, sheet-body, slip-body, slip-margin
#let class = json(bytes(sys.inputs.sheet))
#let paper = paper-size(class.paper)
#let base = if class.large { 13pt } else { 10pt }

#set document(title: class.title, date: none)
#set page(width: paper.width, height: paper.height, margin: margin)
#show: page-text

#let line = 0.4pt + luma(150)
#let rows(widths, heads, cells) = table(
  columns: widths,
  stroke: (x, y) => (top: line),
  inset: (x: 2pt, y: 3pt),
  table.header(..heads.map(each => strong(each))),
  ..cells.flatten(),
)
#let lists(items) = for each in items { block(above: 0.5em, below: 0pt, each) }
#let part(body) = { set text(size: base); body }

#let educator = part({
  heading(level: 1, text(size: 1.5em, class.title))
  [#class.when \ #class.aim]
  heading(level: 2, [The evening])
  rows((auto, 1fr, auto, 2fr), ("From", "What", "For", "Steps"), class.blocks)
  heading(level: 2, [Weigh out])
  rows((1fr, 2.4fr, auto), ("Item", "How much", "Cost"), class.weigh_out)
  lists(class.weigh_says)
  if class.tools.len() > 0 {
    heading(level: 2, [Tools])
    rows((1fr, auto, auto), ("Tool", "At once", "Cleaned in between"), class.tools)
  }
})

#let round-lists = part({
  heading(level: 1, text(size: 1.5em, [Rounds and what to clean]))
  for (place, own) in class.rounds.enumerate() {
    heading(level: 2, if class.rounds.len() > 1 [Educator #(place + 1)] else [Rounds])
    let ticks = own.map(row => (..row, box(width: 3mm, height: 3mm, stroke: 0.6pt + black)))
    columns(2, rows((auto, 1fr, auto, auto, auto), ("At", "What", "Where", "For", "Done"), ticks))
  }
  heading(level: 2, [By the clock])
  rows((auto, 1fr), ("When", "What"), class.duties)
  lists(class.hygiene.map(each => text(size: 0.85em, each)))
})

#let cards = part({
  heading(level: 1, text(size: 1.5em, [Two camps, one reason]))
  [What this plan decides, and what others do for the same end.]
  v(0.4em)
  grid(
    columns: (1fr, 1fr), column-gutter: 5mm, row-gutter: 4mm,
    ..class.cards.map(card => block(width: 100%, breakable: false, inset: 3mm, stroke: 0.6pt + luma(120), {
      heading(level: 2, text(size: 1.05em, card.question))
      [*Here: #card.here.words.* #card.here.why]
      for other in card.others { parbreak(); [*Others: #other.words.* #other.why] }
      parbreak()
      emph(card.one_reason)
    })),
  )
})

#let if-your-skin = part({
  heading(level: 1, text(size: 1.5em, [If your skin is …]))
  [Planned anew for each kind of skin, in the same school, with the same kit.]
  set text(size: 0.85em)
  for branch in class.branches {
    block(breakable: false, above: 0.7em, {
      heading(level: 2, text(size: 1.1em, branch.words))
      if branch.shown != "" { branch.shown }
      if branch.rows.len() > 0 { table(
        columns: (1fr, 2fr, 2fr), stroke: (x, y) => (top: line), inset: (x: 2pt, y: 2pt),
        table.header([*Skin*], [*What*], [*Why*]),
        ..branch.rows.flatten(),
      ) }
    })
  }
})

#let half = if class.half != none { part({
  heading(level: 1, text(size: 1.5em, [One half right, one half wrong: #class.half.words]))
  class.half.comes_of_it
  v(0.5em)
  grid(columns: (70mm, 1fr), column-gutter: 5mm, drawing(class.half.picture, class.half.words, width: 70mm), {
    [The right way on the left of the picture, the mistake on the right of it.]
    lists(class.half.says)
  })
}) }

#let own-face(student) = part({
  heading(level: 1, text(size: 1.5em, student.title))
  if student.says != "" { strong(student.says); parbreak() }
  if student.turns.len() > 0 {
    heading(level: 2, [Your turns])
    rows((auto, 1fr, auto, auto), ("At", "What", "Where", ""), student.turns)
  }
  if student.differs.len() > 0 {
    heading(level: 2, [What differs from what was shown])
    rows((1fr, 1fr), ("On this face", "Why"), student.differs)
  } else if student.known { [Nothing differs from what was shown.] }
  if student.tools.len() > 0 {
    heading(level: 2, [With your tools])
    lists(student.tools)
  }
  heading(level: 2, [A face to mark])
  [Mark where this face needs it, and where not.]
  v(0.3em)
  align(center, drawing(student.face, "A face to mark", width: 90mm))
})

#let pages = (educator, round-lists, cards, if-your-skin, half).filter(each => each != none)
#pages.join(pagebreak())
#for student in class.students {
  if student.sheet != none { pagebreak(); sheet-body(student.sheet) }
  pagebreak()
  own-face(student)
  if student.slip != none {
    pagebreak()
    slip-body(student.slip)
  }
}
