// Covers and the page of the title.
#import "design.typ": *
#import "pages.typ": *
#import "frames.typ": *

#let cover-line(id, body) = if body != "" { framed(styles.at(id), body) }
#let plain-page(margin: (:), body) = page(header: none, footer: none, numbering: none, background: if plan.slug > plan.bleed { edge-marks(plan.width * 1mm, plan.height * 1mm) }, margin: margin, { set par(justify: false); body })

// On a grid of the plan's own; what reaches an edge of the sheet runs over it.
#let laid-out(parts) = plain-page(margin: 0pt, {
  [#metadata(none)#opens]
  let reach(from, length, most) = {
    let over = plan.bleed * 1mm
    let a = from * 1mm + slug - if from <= 0 { over } else { 0mm }
    (a, (from + length) * 1mm + slug + if from + length >= most { over } else { 0mm } - a)
  }
  for p in parts {
    let s = styles.at(p.style, default: styles.cover-facts)
    if "fill" in p {
      let (x, width) = reach(p.x, p.width, plan.width)
      let (y, height) = reach(p.y, p.height, plan.height)
      place(top + left, dx: x, dy: y, pdf.artifact(rect(width: width, height: height, fill: rgb(p.fill))))
    } else {
      let to = if p.stands == "centre" { center } else if p.stands == "end" { end } else { start }
      let shown = if p.field.field == "image" { align(to + horizon, pdf.artifact(image(p.field.src, width: p.width * 1mm, height: p.height * 1mm, fit: "contain"))) } else { align(to, framed(s, { set text(fill: rgb(p.letters)) if "letters" in p; context field-of(p.field) })) }
      place(top + left, dx: p.x * 1mm + slug, dy: p.y * 1mm + slug, box(width: p.width * 1mm, height: p.height * 1mm, shown))
    }
  }
  [#metadata(none)#closes]
})

#let numbers = (facts.number, facts.edition).filter(x => x != "").join(" · ")
#let usual-cover() = {
  let side = calc.min(30, plan.width * 0.15) * 1mm
  let above = plan.height * 0.115 * 1mm
  let banded = plan.cover == "band"
  let over = plan.bleed * 1mm
  let accent = rgb(colours.at("accent", default: "#12305f"))
  plain-page(margin: (x: side + slug, top: above + slug, bottom: plan.height * 0.1 * 1mm + slug), {
    if banded { place(top + left, dx: -side - over, dy: -above - over, pdf.artifact(rect(width: plan.width * 1mm + 2 * over, height: plan.height * 0.31 * 1mm + over, fill: gradient.linear(accent, accent.lighten(18%), accent.lighten(72%), rgb("#ffffff"), angle: 90deg)))) }
    if facts.series != "" { let s = styles.cover-series; framed(s, if banded { text(fill: white, facts.series) } else { facts.series }) }
    v(plan.height * (if banded { 0.29 } else { 0.2 }) * 1mm)
    cover-line("cover-title", facts.title)
    cover-line("cover-subtitle", facts.subtitle)
    v(4mm)
    line(length: 22mm, stroke: 1.4pt + seal)
    v(1fr)
    in-manner(styles.cover-facts, worded(styles.cover-facts, { numbers; linebreak(); facts.rights }))
    [#metadata(none)#closes]
  })
}
#let cover() = if plan.cover == "own" { laid-out(plan.coverParts.front) } else if plan.cover != "none" { usual-cover() }

// On a right page; on its back stand the rights.
#let title-page() = if plan.titlePage {
  pagebreak(to: "odd", weak: true)
  let margin = (x: (plan.inner + plan.outer) * 0.5mm + slug, top: plan.height * 0.28 * 1mm + slug, bottom: plan.bottom * 1mm + slug)
  plain-page(margin: margin, {
    [#metadata(none)#opens]
    cover-line("cover-title", facts.title)
    cover-line("cover-subtitle", facts.subtitle)
    v(1fr)
    cover-line("cover-facts", facts.authors.join(", ", default: ""))
    cover-line("cover-facts", numbers)
    [#metadata(none)#closes]
  })
  if facts.rights != "" {
    plain-page(margin: margin, { [#metadata(none)#opens]; v(1fr); cover-line("cover-facts", facts.rights); [#metadata(none)#closes] })
  }
}

// The last page of a sheet, as its back.
#let back-cover() = if plan.back == "own" {
  pagebreak(to: "even", weak: true)
  laid-out(plan.coverParts.back)
}
