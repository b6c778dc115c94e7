// Exercises on paper, and their answers on pages of their own. What it says comes whole from the core; here it is only laid out.
#import "parts.typ": drawing, margin, page-text, paper-size, swatch
#let test = json(bytes(sys.inputs.sheet))
#let paper = paper-size(test.paper)
#let box-to-tick = box(width: 3.4mm, height: 3.4mm, baseline: 0.6mm, stroke: 0.6pt + black)

#set document(title: test.title, date: none)
#set page(
  width: paper.width, height: paper.height, margin: (x: 16mm, y: 14mm),
  footer: context align(center, text(size: 8pt)[#counter(page).display() of #counter(page).final().first()]),
)
#show: page-text
#set text(size: 10pt)

#let ticks(list) = {
  if list.heading != "" { block(above: 0.7em, below: 0.2em, text(fill: luma(70), list.heading)) }
  let short = list.lines.all(each => each.len() < 34)
  let cells = list.lines.map(each => grid(columns: (5mm, 1fr), box-to-tick, each))
  let across = if not short { 1 } else if cells.len() > 4 { 3 } else { 2 }
  grid(columns: (1fr,) * across, row-gutter: 0.55em, column-gutter: 3mm, ..cells)
}

#let question(each) = block(breakable: false, above: 1.2em, below: 0pt, width: 100%, inset: (top: 0.6em), stroke: (top: 0.5pt + luma(150)), {
  heading(level: 2, text(size: 1.05em)[#each.number. #each.asks])
  text(fill: luma(70))[#each.words. #each.how]
  let words = {
    for one in each.says { block(above: 0.35em, below: 0pt, one) }
    if each.swatches.len() > 0 {
      block(above: 0.5em, below: 0.3em, each.swatches.map(one => [#box(scale(180%, reflow: true, swatch(one.hex))) #h(0.4em) #one.words]).join(h(1.5em)))
    }
    for list in each.boxes { ticks(list) }
    if each.blank != "" { block(above: 0.8em, [#box(width: 22mm, stroke: (bottom: 0.6pt + black)) #each.blank]) }
  }
  v(0.2em)
  if each.picture == "" { words } else {
    grid(columns: (1fr, 36mm), column-gutter: 4mm, words, drawing(each.picture, each.alt, width: 36mm))
  }
})

#heading(level: 1, text(size: 1.6em, test.title))
#block(above: 0.6em, below: 0.4em, [Name #box(width: 70mm, stroke: (bottom: 0.6pt + black)) #h(1fr) #test.minutes])
#for each in test.questions { question(each) }

#pagebreak()
#heading(level: 1, text(size: 1.4em)[Answers])
#for each in test.questions {
  block(breakable: false, above: 0.8em, below: 0pt, {
    heading(level: 2, text(size: 1em)[#each.number. #each.answer])
    for one in each.why { block(above: 0.3em, below: 0pt, one) }
  })
}
