// Sheets that go along with containers: a client's week, the coach's list, a kitchen sheet.
#let given = json(bytes(sys.inputs.page))

#let text-font = ("Atkinson Hyperlegible Next", "Noto Sans SC", "Noto Sans SC More", "Noto Sans Arabic", "Noto Emoji")
#let head-font = ("Bricolage Grotesque", "Noto Sans SC", "Noto Sans SC More", "Noto Sans Arabic", "Noto Emoji")
#let mono-font = ("Atkinson Hyperlegible Mono", "Noto Sans SC", "Noto Sans SC More", "Noto Sans Arabic", "Noto Emoji")

#set document(title: given.sheets.at(0).title, date: none)
#set page(
  paper: given.paper,
  margin: (x: 16mm, y: 15mm),
  footer: context align(right, text(size: 8.5pt)[#counter(page).display("1 of 1", both: true)]),
)
#set text(font: text-font, size: 10.5pt, lang: "en", fill: black)
#set par(leading: 0.5em, spacing: 0.7em)

#let figure-text(body) = text(font: mono-font, weight: "bold")[#body]
#let box-to-tick = box(width: 4mm, height: 4mm, stroke: 0.8pt, radius: 0.5mm, baseline: 0.6mm)
#let rule = line(length: 100%, stroke: 0.5pt)
#let to-write(width) = box(width: width, height: 1em, stroke: (bottom: 0.6pt))

#let head(sheet) = {
  text(font: head-font, size: 20pt, weight: "bold")[#sheet.title]
  linebreak()
  sheet.detail
  v(2mm)
}

#let foot(sheet) = {
  v(3mm)
  set text(size: 9pt)
  for caution in sheet.cautions [#caution \ ]
}

#let week(sheet) = {
  head(sheet)
  for day in sheet.days {
    block(breakable: false, width: 100%, above: 4mm, below: 0mm)[
      #text(font: head-font, size: 13pt, weight: "bold")[#day.title]
      #for row in day.rows {
        block(width: 100%, above: 1.6mm, below: 1.6mm, stroke: (top: 0.5pt), inset: (top: 1.6mm), grid(
          columns: (24mm, 1fr, auto),
          column-gutter: 3mm,
          [#row.meal],
          [#text(weight: "bold")[#row.what] #if row.detail != "" [ \ #text(size: 9pt)[#row.detail]]],
          align(right)[#figure-text[#row.kcal] #if row.figures != "" [ \ #text(size: 9pt)[#row.figures]]],
        ))
      }
      #if day.total != "" {
        block(width: 100%, above: 1.6mm, below: 1.2mm, stroke: (top: 1pt), inset: (top: 1.4mm), grid(
          columns: (24mm, 1fr, auto),
          column-gutter: 3mm,
          text(weight: "bold")[Day], [#day.total], figure-text[#day.kcal],
        ))
      }
      #if day.evening != "" {
        block(width: 100%, above: 1.2mm, stroke: (left: 2pt), inset: (left: 2.5mm, y: 0.5mm))[*Tonight:* #day.evening]
      }
    ]
  }
  if sheet.waiting.len() > 0 [
    #v(2mm) *No day yet:* #sheet.waiting.join("; ").
  ]
  v(2mm)
  sheet.allergens
  foot(sheet)
}

#let hand-list(sheet) = {
  head(sheet)
  for client in sheet.clients {
    block(breakable: true, width: 100%, above: 5mm, below: 0mm)[
      #block(sticky: true, below: 1.5mm)[
        #text(font: head-font, size: 13pt, weight: "bold")[#client.name]
        #h(3mm) #text(size: 9.5pt)[#client.detail]
      ]
      #table(
        columns: (auto, 1fr, auto, auto),
        stroke: (x, y) => (top: 0.5pt),
        inset: (x: 1.5mm, y: 1.6mm),
        ..for one in client.containers {
          (
            [#if one.is_closed [#text(weight: "bold")[✓]] else [#box-to-tick] #figure-text[#one.number]],
            [#text(weight: "bold")[#one.what] \ #text(size: 9.5pt)[#one.grams]],
            [#one.day],
            [#one.place],
          )
        }
      )
      #if client.beside != "" [#text(size: 9.5pt)[#client.beside]]
      #block(above: 2mm, breakable: false)[
        Handed over #to-write(34mm) #h(1fr) at #to-write(14mm) #h(1fr) cold, °C #to-write(12mm) #h(1fr) received #to-write(34mm)
      ]
    ]
  }
  foot(sheet)
}

#let pan(one) = {
  block(breakable: true, width: 100%, above: 6mm)[
    #block(sticky: true, below: 2mm)[#text(font: head-font, size: 14pt, weight: "bold")[#one.name]]
    #grid(
      columns: (1fr, 1.2fr),
      column-gutter: 6mm,
      [
        #for (name, grams) in one.amounts {
          grid(columns: (auto, 1fr), column-gutter: 3mm, [#name], align(right, figure-text[#grams]))
          v(0.6mm)
        }
      ],
      [
        #for (index, step) in one.steps.enumerate() [#text(weight: "bold")[#str(index + 1).] #step \ ]
        #if one.done != "" [#text(weight: "bold")[#one.done]]
      ],
    )
    #if one.rows.len() > 0 {
      block(above: 3mm, below: 2mm)[
        Weigh the pan without its vessel: #to-write(28mm) g. #one.expected Take the row that is nearest, one lower when in doubt.
      ]
      table(
        columns: (auto,) + (1fr,) * one.kinds.len(),
        align: (left,) + (right,) * one.kinds.len(),
        stroke: (x, y) => (bottom: if y == 0 { 1pt } else { 0.4pt }),
        inset: (x: 2mm, y: 1.4mm),
        [the pan weighs], ..one.kinds.map(kind => [#kind]),
        ..for row in one.rows {
          (
            if row.is_expected [#figure-text[#row.pan] expected] else [#figure-text[#row.pan]],
            ..row.grams.map(grams => figure-text[#grams]),
          )
        }
      )
    } else { block(above: 3mm)[#one.division] }
  ]
}

#let kitchen(sheet) = {
  head(sheet)
  for one in sheet.pans { pan(one) }
  foot(sheet)
}

#for (index, sheet) in given.sheets.enumerate() {
  if index > 0 { pagebreak() }
  counter(page).update(1)
  if sheet.kind == "week" { week(sheet) } else if sheet.kind == "list" { hand-list(sheet) } else { kitchen(sheet) }
}
