// A shopping list to be carried: boxes to tick, large words for what to take.
#let page-data = json(bytes(sys.inputs.page))

#set document(title: page-data.title, date: none)
#set page(
  paper: "a4",
  margin: (x: 18mm, y: 16mm),
  footer: context align(right, text(size: 9pt)[#counter(page).display("1 of 1", both: true)]),
)
#set text(font: "Atkinson Hyperlegible Next", size: 11pt, lang: "en")
#set par(leading: 0.5em)

#text(size: 20pt, weight: "bold")[#page-data.title]

#if page-data.total != "" [#text(size: 12pt)[#page-data.total]]

#let box-to-tick = box(width: 4.5mm, height: 4.5mm, stroke: 0.9pt, radius: 0.6mm)

#for section in page-data.sections {
  // A heading never stands alone at the foot of a page.
  block(above: 7mm, below: 2.5mm, sticky: true, text(size: 13pt, weight: "bold")[#upper(section.title.first())#section.title.clusters().slice(1).join()])
  for row in section.rows {
    block(breakable: false, width: 100%, above: 0pt, below: 0pt, stroke: (top: 0.5pt), inset: (y: 2mm), grid(
      columns: (8mm, 52mm, 1fr, auto),
      column-gutter: 3mm,
      box-to-tick,
      text(weight: "bold")[#row.take],
      [#text(weight: "bold")[#row.food] \ #text(size: 9.5pt)[#row.detail]],
      align(right)[#row.price],
    ))
  }
}
#if page-data.sections.len() == 0 [Nothing to buy: everything is in the house or in the pan.]

#v(6mm)
#text(size: 9.5pt)[#page-data.caution]
