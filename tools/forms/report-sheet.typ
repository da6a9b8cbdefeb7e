#import "form.typ": *
#show: form.with("Report sheet", "One sheet for each learner and term.")

#row(line-for[Name], line-for[Class])
#row(line-for[Form tutor], line-for[Day])

#part[Subjects]
#let head(it) = table.cell(fill: rgb("#EEF2F1"), text(size: 9pt, weight: "semibold", it))
#table(
  columns: (44mm, 20mm, 20mm, 1fr), rows: (8mm,) + (13mm,) * 9, stroke: rule, inset: (x: 2mm, y: 1.5mm), align: left + horizon,
  head[Subject], head[Mark], head[Effort], head[Remark],
  ..(range(9).map(_ => ([], [], [], [])).flatten()),
)
#part[Attendance]
#row(line-for[Present], line-for[Late], line-for[Absent])
#part[From the form tutor]
#block(above: 0mm, for n in range(3) { block(above: 0pt, below: 0pt, width: 100%, height: 8.5mm, stroke: (bottom: rule)) })
#v(5mm)
#row(line-for[Date], line-for[Signature])
