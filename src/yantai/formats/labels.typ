// Labels for containers: black only, in a grid of a sheet or one after another on a roll.
#let given = json(bytes(sys.inputs.page))
#let grid-of = given.grid
#let mm(value) = value * 1mm

#let text-font = ("Atkinson Hyperlegible Next", "Noto Sans SC", "Noto Sans SC More", "Noto Sans Arabic", "Noto Emoji")
#let head-font = ("Bricolage Grotesque", "Noto Sans SC", "Noto Sans SC More", "Noto Sans Arabic", "Noto Emoji")
#let mono-font = ("Atkinson Hyperlegible Mono", "Noto Sans SC", "Noto Sans SC More", "Noto Sans Arabic", "Noto Emoji")

#set document(title: given.title, date: none)
#set text(font: text-font, lang: "en", fill: black)
#set par(leading: 0.42em, spacing: 0.5em)

#let rule = line(length: 100%, stroke: 0.5pt)

// What is left out at a level: everything before it in the list of drops too.
#let has(level, what) = given.drops.position(one => one == what) >= level

// While it is tried what fits, a box of the same size stands for the code.
#let code-of(one, side, is-tried) = if is-tried { box(width: side, height: side) } else {
  image(bytes(one.code_svg), format: "svg", width: side, height: side)
}

#let body(one, level, size, is-tried: false) = {
  set text(size: size)
  let head = {
    text(font: head-font, weight: "bold", size: 1.5em)[#one.client]
    if one.mark != "" [ #box(stroke: 0.8pt, inset: (x: 0.25em, y: 0.1em), text(font: head-font, weight: "bold", size: 1.3em)[#one.mark])]
    linebreak()
    [#one.meal]
    if has(level, "the dish") [. #one.dish]
    [. #text(weight: "bold")[#one.box]]
    v(0.35em, weak: true)
    [#one.use_by_words #text(font: mono-font, weight: "bold", size: 1.5em)[#one.use_by]]
  }
  if has(level, "the code") {
    let side = 4.8em
    grid(columns: (1fr, side), column-gutter: 0.6em, head, code-of(one, side, is-tried))
  } else { head }
  v(0.3em, weak: true)
  grid(
    columns: (1fr, auto),
    column-gutter: 0.8em,
    [#text(weight: "bold")[#one.keep]#if one.thaw != "" [. #one.thaw]],
    if has(level, "the day of cooking") [cooked #one.cooked],
  )
  v(0.1em)
  rule
  {
    set text(font: mono-font, weight: "bold")
    let figures = if has(level, "macros") { one.macros } else { () }
    (..figures, one.energy, one.grams).map(figure => box[#figure]).join(h(1fr))
  }
  rule
  if one.is_planned [#text(weight: "bold")[Planned, not weighed. ]]
  if has(level, "grams of each part") [#one.parts.join(", "). ]
  if one.allergens.len() > 0 [Contains #text(weight: "bold")[#upper(one.allergens.join(", "))]. ] else [No allergen is stated for what is in it. ]
  for more in one.also [#more ]
  if has(level, "how to reheat, in words") [#one.reheat] else [#one.reheat_short]
  if has(level, "batch") [ #text(size: 0.85em)[#one.batch.]]
}

#let sizes = given.sizes.map(size => size * 1pt)
#let least = sizes.last()

// The least that is left out in the largest letters that fit; the last resort is cut off at the edge, and told.
#let fitted(one, width, height) = {
  let found = none
  for level in range(given.drops.len() + 1) {
    for size in sizes {
      if found == none and measure(block(width: width, body(one, level, size, is-tried: true))).height <= height {
        found = (level: level, size: size, fits: true)
      }
    }
  }
  if found == none { (level: given.drops.len(), size: least, fits: false) } else { found }
}

#let inset = mm(grid-of.inset)

#let label(index, one, width, height) = context {
  let inner = (width: width - 2 * inset, height: height - 2 * inset)
  let how = fitted(one, inner.width, inner.height)
  [#metadata((index: index, level: how.level, fits: how.fits)) <fit>]
  block(width: width, height: height, inset: inset, clip: true, body(one, how.level, how.size))
}

#if grid-of.page_mm != none {
  set page(width: mm(grid-of.page_mm.at(0)), height: mm(grid-of.page_mm.at(1)), margin: 0mm)
  let cells = grid-of.columns * grid-of.rows
  let first = given.start - 1
  let pages = calc.ceil((given.labels.len() + first) / cells)
  for page-number in range(pages) {
    if page-number > 0 { pagebreak() }
    for cell in range(cells) {
      let index = page-number * cells + cell - first
      if index >= 0 and index < given.labels.len() {
        let column = calc.rem(cell, grid-of.columns)
        let row = calc.quo(cell, grid-of.columns)
        place(
          top + left,
          dx: mm(grid-of.left_mm + column * (grid-of.label_w_mm + grid-of.gap_x_mm)),
          dy: mm(grid-of.top_mm + row * (grid-of.label_h_mm + grid-of.gap_y_mm)),
          label(index, given.labels.at(index), mm(grid-of.label_w_mm), mm(grid-of.label_h_mm)),
        )
      }
    }
  }
} else if grid-of.label_h_mm != none {
  set page(width: mm(grid-of.label_w_mm), height: mm(grid-of.label_h_mm), margin: 0mm)
  for (index, one) in given.labels.enumerate() {
    if index > 0 { pagebreak() }
    label(index, one, mm(grid-of.label_w_mm), mm(grid-of.label_h_mm))
  }
} else {
  set page(width: mm(grid-of.label_w_mm), height: auto, margin: inset)
  for (index, one) in given.labels.enumerate() {
    if index > 0 { pagebreak() }
    [#metadata((index: index, level: 0, fits: true)) <fit>]
    body(one, 0, sizes.at(calc.min(2, sizes.len() - 1)))
  }
}
