// What the forms share. Everything on them is made up.
#let ink = rgb("#22303C")
#let slate = rgb("#55636E")
#let rule = 0.5pt + rgb("#6B7A85")

#let form(title, note, it) = {
  set document(title: title)
  set page(paper: "a4", margin: (x: 20mm, top: 18mm, bottom: 16mm))
  set text(font: "Source Sans 3", size: 10.5pt, fill: ink, lang: "en", region: "GB")
  set par(leading: 0.6em, spacing: 0.9em)
  block(width: 100%, below: 6mm, stroke: (bottom: 1.2pt + ink), inset: (bottom: 3mm), {
    text(size: 19pt, weight: "semibold", title)
    v(-2mm)
    text(fill: slate, note)
  })
  it
}
#let part(it) = block(above: 7mm, below: 3.5mm, text(size: 11.5pt, weight: "semibold", it))
// A caption with a line to write on beside it.
#let line-for(caption, width: 1fr) = box(width: width, height: 8mm, grid(columns: (auto, 1fr), column-gutter: 2mm, align: bottom,
  box(height: 8mm, align(bottom, caption)), box(width: 100%, height: 8mm, stroke: (bottom: rule))))
#let row(..cells) = block(above: 0pt, below: 1.5mm, grid(columns: cells.pos().map(_ => 1fr), column-gutter: 7mm, ..cells))
#let square(caption) = box(baseline: 0.6mm, box(width: 4mm, height: 4mm, stroke: rule)) + h(2mm) + caption
#let comb(count) = box(grid(columns: (6mm,) * count, rows: 8mm, stroke: rule, ..range(count).map(_ => [])))
