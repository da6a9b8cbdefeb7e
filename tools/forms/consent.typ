#import "form.typ": *
#show: form.with("Consent to a visit", "One form for each learner. It is kept until the visit is over.")

#part[The learner]
#row(line-for[Name], line-for[Class])
#row(line-for[Date of birth], line-for[Form tutor])

#part[The visit]
#row(line-for[Where to])
#row(line-for[Day], line-for[Back at])

#part[What we should know]
Food that is not eaten, medicine, allergies:
#block(above: 0mm, below: 3mm, for n in range(3) { block(above: 0pt, below: 0pt, width: 100%, height: 8mm, stroke: (bottom: rule)) })
#block(above: 5mm, grid(columns: (1fr, 1fr), row-gutter: 4mm,
  square[Swims 50 metres], square[Does not swim],
  square[May be photographed], square[No photographs],
))

#part[In an emergency]
#row(line-for[Who is called])
#block(above: 4mm, grid(columns: (auto, 1fr), column-gutter: 3mm, align: horizon, [Phone], comb(14)))

#part[Consent]
#block(below: 4mm, grid(columns: (1fr, 1fr), square[I agree that the learner takes part], square[I do not agree]))
#v(6mm)
#row(line-for[Date], line-for[Signature])
#align(bottom, text(size: 8.5pt, fill: slate)[Hand this form in at the office, or send it back as an answer to the message that it came with.])
