// A drawing with soft edges as a picture of pixels: soft edges are slow, and large, in a PDF.
#let face = json(bytes(sys.inputs.sheet))
#set page(width: face.width * 1mm, height: auto, margin: 0mm, fill: none)
#image(bytes(face.svg), format: "svg", width: 100%)
