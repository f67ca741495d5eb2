// A test page: the edges of every label of a grid, and rulers to measure what the printer made of them.
#let given = json(bytes(sys.inputs.page))
#let grid-of = given.grid
#let mm(value) = value * 1mm
#let height = if grid-of.label_h_mm == none { 60 } else { grid-of.label_h_mm }
#let page-size = if grid-of.page_mm == none { (grid-of.label_w_mm, height) } else { grid-of.page_mm }

#set document(title: given.title, date: none)
#set page(width: mm(page-size.at(0)), height: mm(page-size.at(1)), margin: 0mm)
#set text(font: "Atkinson Hyperlegible Next", size: 7pt, fill: black)

#for row in range(grid-of.rows) {
  for column in range(grid-of.columns) {
    place(
      top + left,
      dx: mm(grid-of.left_mm + column * (grid-of.label_w_mm + grid-of.gap_x_mm)),
      dy: mm(grid-of.top_mm + row * (height + grid-of.gap_y_mm)),
      rect(width: mm(grid-of.label_w_mm), height: mm(height), stroke: 0.2mm, inset: 1.5mm)[
        #text(weight: "bold")[#str(row * grid-of.columns + column + 1)] #given.says.at(0)
      ],
    )
  }
}

// A ruler across and one down, from the upper left corner of the first label.
#let tick(at) = if calc.rem(at, 10) == 0 { 4 } else if calc.rem(at, 5) == 0 { 3 } else { 1.5 }
#let across = calc.min(calc.floor(page-size.at(0) - grid-of.left_mm), 200)
#let down = calc.min(calc.floor(page-size.at(1) - grid-of.top_mm), 280)
#for at in range(across + 1) {
  place(top + left, dx: mm(grid-of.left_mm + at), dy: mm(grid-of.top_mm + height / 2), line(angle: 90deg, length: mm(tick(at)), stroke: 0.1mm))
  if calc.rem(at, 50) == 0 and at > 0 {
    place(top + left, dx: mm(grid-of.left_mm + at + 0.5), dy: mm(grid-of.top_mm + height / 2 + 2), [#str(at) mm])
  }
}
#for at in range(down + 1) {
  place(top + left, dx: mm(grid-of.left_mm + grid-of.label_w_mm / 2), dy: mm(grid-of.top_mm + at), line(length: mm(tick(at)), stroke: 0.1mm))
  if calc.rem(at, 50) == 0 and at > 0 {
    place(top + left, dx: mm(grid-of.left_mm + grid-of.label_w_mm / 2 + 4.5), dy: mm(grid-of.top_mm + at - 1), [#str(at) mm])
  }
}
