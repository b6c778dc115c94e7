// The sheet one works from. What it says comes whole from the core, as JSON; here it is only laid out.
#import "parts.typ": sheet-body, paper-size, margin, page-text
#let sheet = json(bytes(sys.inputs.sheet))
#let paper = paper-size(sheet.paper)

#set document(title: sheet.title, date: none)
#set page(width: paper.width, height: paper.height, margin: margin)
#show: page-text

#sheet-body(sheet)
