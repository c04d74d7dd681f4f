// Heads, feet and what is read from other pages: which chapter runs here, which pages are blank.
#import "design.typ": *

#let at(id) = [#metadata((at: id))#label(id)]
#let runs = <run>
#let sections-run = <sectionrun>
#let opens = <opens>
#let closes = <closes>

#let is-blank() = {
  let p = here().page()
  let ends = query(closes).map(x => x.location().page()).filter(x => x < p)
  let starts = query(opens).map(x => x.location().page())
  if ends.len() == 0 { return false }
  let after = starts.filter(x => x > p)
  after.len() > 0 and starts.filter(x => x > ends.last() and x <= p).len() == 0
}
#let is-opening() = { let p = here().page(); query(opens).any(x => x.location().page() == p) }
#let running(mark) = {
  let p = here().page()
  let found = query(mark).filter(x => x.location().page() <= p)
  if found.len() == 0 { none } else { found.last().value }
}
#let shown-page(l) = {
  let n = l.page-numbering()
  numbering(if n == none { "1" } else { n }, ..counter(page).at(l))
}
#let field-of(f) = {
  let chapter = running(runs)
  if f.field == "title" { facts.title } else if f.field == "chapter" { if chapter != none { chapter.label } else { "" } } else if f.field == "chapter-number" { if chapter != none { chapter.num } else { "" } } else if f.field == "section" {
    let section = running(sections-run)
    if section != none and (chapter == none or section.of == chapter.id) { section.label } else if chapter != none { chapter.label } else { "" }
  } else if f.field == "page" { worded(styles.page-number, shown-page(here())) } else if f.field == "pages" { str(counter(page).final().first()) } else if f.field == "number" { facts.number } else if f.field == "edition" { facts.edition } else if f.field == "rights" { facts.rights } else if f.field == "subtitle" { facts.subtitle } else if f.field == "series" { facts.series } else if f.field == "authors" { facts.authors.join(", ") } else if f.field == "image" { box(baseline: 20%, pdf.artifact(image(f.src, height: f.height * 1mm))) } else { f.words }
}
#let slot(fields) = {
  let shown = fields.map(field-of).filter(x => x != "")
  let numbered = fields.len() > 0 and fields.first().field == "chapter-number"
  shown.join(if numbered { h(0.9em) } else { " · " })
}
#let running-line(slots, id) = {
  let s = styles.at(id)
  in-manner(s, worded(s, grid(columns: (1fr, auto, 1fr), align: (start + bottom, center + bottom, end + bottom), slot(slots.start), slot(slots.middle), slot(slots.end))))
}
#let slots-of(lines) = if "opening" in lines and is-opening() { lines.opening } else if calc.odd(here().page()) { lines.odd } else { lines.even }
#let has-fields(slots) = slots.start.len() + slots.middle.len() + slots.end.len() > 0
#let page-header = context {
  if is-blank() { return }
  let slots = slots-of(plan.heads)
  // A page that begins a chapter without a head has no rule under it either.
  if is-opening() and not has-fields(slots) { return }
  running-line(slots, "running-head")
  let rule = styles.running-head.said.at("rules", default: (:)).at("bottom", default: none)
  if plan.headRule and rule != none { v(-1.2mm); line(length: 100%, stroke: stroke-of(rule)) }
}
#let page-footer = context {
  if is-blank() { return }
  running-line(slots-of(plan.feet), "running-foot")
}
#let margin-inside = (if is-rtl { plan.width - plan.odd.text - plan.textWidth } else { plan.odd.text }) * 1mm
#let margin-outside = (plan.width - plan.textWidth) * 1mm - margin-inside
#let is-mirrored = plan.odd.text != plan.even.text
// The sheet that is printed is larger than the one that is cut from it.
#let slug = plan.slug * 1mm
#let edge-mark(x, y, dx, dy) = place(top + left, dx: x, dy: y, line(start: (dx * 3mm, dy * 3mm), end: (dx * 7.5mm, dy * 7.5mm), stroke: 0.25pt + cmyk(100%, 100%, 100%, 100%)))
#let edge-marks(width, height) = {
  let out = plan.bleed * 1mm - 3mm
  for (x, dx) in ((slug, -1), (slug + width, 1)) {
    for (y, dy) in ((slug, -1), (slug + height, 1)) {
      edge-mark(x + dx * out, y, dx, 0)
      edge-mark(x, y + dy * out, 0, dy)
    }
  }
}
// Bars beside what changed: begun and ended in the text, drawn on each page between its edges.
#let bar-mark(on) = [#metadata(on)<bar>]
#let gone-mark = [#metadata(none)<gone>]
#let bars() = {
  let p = here().page()
  let (top, bottom) = (plan.top * 1mm + slug, (plan.height - plan.bottom) * 1mm + slug)
  let side = if calc.odd(p) { plan.odd } else { plan.even }
  let after = not is-mirrored or (calc.odd(p) != is-rtl)
  let x = slug + if after { (side.text + plan.textWidth) * 1mm + 2.6mm } else { side.text * 1mm - 2.6mm }
  let depth = 0
  let from = none
  let drawn = ()
  for m in query(<bar>) {
    let l = m.location().position()
    if m.value and depth == 0 { from = l }
    depth += if m.value { 1 } else { -1 }
    if depth == 0 and from.page <= p and l.page >= p {
      let (a, b) = (if from.page < p { top } else { from.y }, if l.page > p { bottom } else { l.y + 2pt })
      // Those that follow each other are one.
      if drawn.len() > 0 and a - drawn.last().at(1) < 12pt { drawn.last().at(1) = b } else { drawn.push((a, b)) }
    }
  }
  for m in query(<gone>) {
    let l = m.location().position()
    if l.page == p { place(std.top + left, dx: x - 1.4mm, dy: l.y - 1pt, line(length: 2.8mm, stroke: 1.2pt + ink)) }
  }
  for (a, b) in drawn { if b > a { place(std.top + left, dx: x, dy: a, line(angle: 90deg, length: b - a, stroke: 1.2pt + ink)) } }
}
#let page-ground = context {
  if has-bars { bars() }
  if plan.slug > plan.bleed { let turned = page.flipped; if turned { edge-marks(plan.height * 1mm, plan.width * 1mm) } else { edge-marks(plan.width * 1mm, plan.height * 1mm) } }
  if plan.watermark != "" { place(center + horizon, rotate(-52deg, text(font: styles.heading-2.letters.at("font", default: "Source Sans 3"), size: plan.width * 0.16mm, weight: 700, fill: luma(92%), plan.watermark))) }
  if plan.blank != "" and is-blank() { place(center + horizon, in-manner(styles.running-foot, plan.blank)) }
}
