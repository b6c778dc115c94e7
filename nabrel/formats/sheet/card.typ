// The card to print, in black alone. Where everything lies comes whole from the core, in millimetres; here it is only laid out.
#import "parts.typ": drawing, page-text, paper-size
#let card = json(bytes(sys.inputs.sheet))
// Across the page: no printer reaches its edges.
#let paper = { let upright = paper-size(card.paper); (width: upright.height, height: upright.width) }
#let (width, height) = card.size.map(each => each * 1mm)
#let left = (paper.width - width) / 2
#let top = 14mm

#set document(title: "Card for colours from a photograph", date: none)
#set page(width: paper.width, height: paper.height, margin: 0mm)
#show: page-text
#set text(size: 7.5pt)

#let at(x, y, body) = place(dx: left + x * 1mm, dy: top + y * 1mm, body)

#place(dx: left, dy: top, drawing(card.drawing, "The card: four markers, two ladders of greys, cells half black half white, and a window for skin", width: width, height: height))
#place(dx: left, dy: top, rect(width: width, height: height, stroke: (thickness: 0.2pt, dash: "dotted"), fill: none))
#for cell in card.cells {
  at(cell.x, cell.y + 1.2, text(fill: luma(90))[#upper(cell.id) #box(width: 19mm, stroke: (bottom: 0.3pt + luma(120)))])
}
#let (wx, wy, ww, wh) = card.window
#if card.skin {
  at(4, 30, block(width: 44mm)[*Skin.* Cut out the dotted window. Hold the card flat against cheek, jaw or neck, in daylight by a window.])
  at(99, 30, block(width: 44mm)[All four markers must be seen. No flash, no shadow of your own. One picture for each place.])
} else {
  at(149, 26, block(width: 54mm)[*Films.* Two strips of tape as rails, above and below a cell. A little product on the black half, drawn over the white one with a straight edge, in one stroke. Let it dry.])
  at(149, 94, block(width: 54mm)[*Skin.* Cut out the dotted window above and hold it flat against cheek, jaw or neck. *Picture.* Daylight by a window, no flash, no shadow; all four markers in it.])
}
#at(0, card.size.at(1) + 6, {
  heading(level: 1, text(size: 11pt)[Colours from a photograph])
  block(width: width, above: 2mm)[Print at 100 %, in black, on plain white paper. This line is #card.ruler mm long; if a ruler says otherwise, the card is of no use: #h(2mm) #box(width: card.ruler * 1mm, height: 2mm, stroke: (bottom: 0.8pt + black, left: 0.8pt + black, right: 0.8pt + black))]
  block(width: width, above: 2mm)[Clean tools and hands for every product; nothing goes back into a pack. A card that touched skin is for that sitter alone.]
})
