// Chapters, sections and listings.
#import "design.typ": *
#import "pages.typ": *
#import "frames.typ": *
#import "lines.typ": *
#import "blocks.typ": *

#let bookmark(p, level, body) = [#heading(level: calc.min(level, 6), outlined: p.listed, bookmarked: p.listed and level <= plan.bookmarks, body)#label(p.id)]
#let shift = if doc.body.any(p => p.role == "part") { 1 } else { 0 }
#let opening(p, word: none) = {
  if plan.begins == "odd" { pagebreak(to: "odd", weak: true) } else { pagebreak(weak: true) }
  [#metadata(none)#opens]
  [#metadata((id: p.id, num: if p.num == none { "" } else { p.num }, label: p.label))#runs]
  let s = styles.heading-1
  let sink = if plan.height > 220 { 14mm } else { 8mm }
  v(if on-grid { calc.round(sink / grid-step) * grid-step } else { sink })
  if p.num != none {
    let n = styles.heading-1-number
    framed(n, sticky: true, { if word != none { text(..styles.label.letters, size: 11pt, word + " ") }; p.num })
  }
  if p.at("gone", default: false) { gone-mark }
  if p.at("bar", default: false) { bar-mark(true) }
  framed(s, { bookmark(p, calc.max(1, p.level + shift), lettered(s, walk-lines(p.title))); if p.at("bar", default: false) { bar-mark(false) } })
}
#let heading-style(p) = p.at("s", default: "heading-" + str(calc.clamp(p.level, 2, 4)))
#let section-heading(p, of) = {
  let s = styles.at(heading-style(p))
  let begins = s.said.at("begins", default: none)
  if begins == "odd" { pagebreak(to: "odd", weak: true) } else if begins == "page" { pagebreak(weak: true) }
  if p.level == 2 { [#metadata((of: of, label: p.label))#sections-run] }
  if p.at("gone", default: false) { gone-mark }
  if p.at("bar", default: false) { bar-mark(true) }
  framed(s, sticky: true, {
    if p.num != none { lettered(s, p.num); h(0.55em) }
    bookmark(p, p.level + shift, lettered(s, walk-lines(p.title)))
    if p.at("bar", default: false) { bar-mark(false) }
  })
}
#let sections(ps, of) = for p in ps { if p.headed { section-heading(p, of) } else { at(p.id) }; walk(p.c, bare: true); sections(p.places, of) }

// Dots from what is listed to its page.
#let leader = box(width: 1fr, baseline: 0.2em, inset: (x: 2mm), repeat(gap: 1.6mm, text(fill: rgb(colours.at("hair", default: "#999999")))[.]))
#let contents-line(p, depth) = {
  let s = styles.at("contents-" + str(calc.clamp(depth + 1, 1, 3)))
  let n = if p.num == none { "" } else { p.num }
  let indent = 10mm
  framed(s, sticky: depth == 0, link(label(p.id), grid(columns: (indent, 1fr, 14mm), align: (start, start, end + bottom),
    n, if depth == 0 { p.label } else { [#p.label #leader] }, worded(styles.contents-page, page-of(p.id)))))
}
#let contents(ps, depth) = for p in ps {
  if p.listed and p.role not in ("toc",) { contents-line(p, depth) }
  if depth < plan.contentsDepth - 1 or p.role == "part" { contents(p.places, depth + 1) }
}
#let list-of(xs) = for x in xs {
  framed(styles.contents-2, link(label(x.id), grid(columns: (12mm, 1fr, 14mm), align: (start, start, end + bottom), inline-styled("caption-number", x.num), [#walk-lines(x.cap) #leader], worded(styles.contents-page, page-of(x.id)))))
}
#let locators(ats) = {
  // By sheet, so that the Roman pages of the front matter stay before the others and never run together with them.
  let found = ats.map(a => {
    let from = locate(label(a.from))
    let to = if a.until == none { from } else { locate(label(a.until)) }
    (p: from.page(), u: to.page(), style: from.page-numbering(), first: from, last: to)
  }).sorted(key: x => x.p)
  let out = ()
  for x in found {
    if out.len() > 0 and x.style == out.last().style and x.p <= out.last().u { let o = out.pop(); if x.u > o.u { o.u = x.u; o.last = x.last }; out.push(o) } else { out.push(x) }
  }
  out.map(r => link(r.first, if r.p == r.u { shown-page(r.first) } else { shown-page(r.first) + "–" + shown-page(r.last) })).join(", ")
}
#let index-line(e, depth) = {
  par(hanging-indent: 4mm * (depth + 2), { h(4mm * depth); e.term; if e.at.len() > 0 { [, ]; context locators(e.at) }; if e.see.len() > 0 { [, #emph(words.see) #e.see.join("; ")] }; if e.also.len() > 0 { [; #emph(words.seeAlso) #e.also.join("; ")] } })
  for s in e.sub { index-line(s, depth + 1) }
}
#let listing(p) = {
  opening(p)
  if p.role == "toc" { contents(doc.front.filter(x => x.role != "toc") + doc.body + doc.back, 0) } else if p.role == "figurelist" { list-of(doc.figures) } else if p.role == "tablelist" { list-of(doc.tables) } else if p.role == "glossarylist" {
    for g in doc.glossary { framed(styles.term-name, { at(g.id); g.term }, sticky: true); block(below: 7pt, walk(g.c)) }
  } else if p.role == "indexlist" {
    let s = styles.index-entry
    columns(plan.indexColumns, gutter: 7mm, in-manner(s, {
      set par(spacing: 3.5pt, hanging-indent: 0pt)
      for g in doc.index { framed(styles.index-letter, g.letter, sticky: true); for e in g.entries { index-line(e, 0) } }
    }))
  } else { walk(p.c, bare: true); sections(p.places, p.id) }
  [#metadata(none)#closes]
}
#let numbered-by-chapter(p, body) = if plan.body == "chapter-page" and p.num != none {
  // Every chapter counts its own pages.
  if plan.begins == "odd" { pagebreak(to: "odd", weak: true) } else { pagebreak(weak: true) }
  set page(numbering: (..n) => p.num + "-" + str(n.pos().first()))
  counter(page).update(1)
  body
} else { body }
#let chapter(p) = {
  if p.role == "part" {
    opening(p, word: words.part)
    walk(p.c, bare: true)
    [#metadata(none)#closes]
    for c in p.places { chapter(c) }
  } else {
    numbered-by-chapter(p, {
      opening(p, word: if p.role == "appendix" { words.appendix } else { none })
      walk(p.c, bare: true)
      sections(p.places, p.id)
      [#metadata(none)#closes]
    })
  }
}
