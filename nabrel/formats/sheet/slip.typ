// The slip that a sitter takes along and fills in. What it says comes whole from the core, as JSON; here it is only laid out.
#import "parts.typ": paper-size, slip-margin, slip-body
#let slip = json(bytes(sys.inputs.sheet))
#let paper = paper-size(slip.paper)

#set document(title: slip.title, date: none)
#set page(width: paper.width, height: paper.height, margin: slip-margin)

#slip-body(slip)
