// The one template of printed manuals: walks /doc.json. No text of a person is ever read as markup.
// Content, numbers and order come from the document; only page numbers are looked up here.
#let doc = json("/doc.json")
#let words = doc.words
#let facts = doc.facts

// ---- page plan
#let side = 38mm // margin column, outside
#let inner = 24mm
#let outside = 20mm + side
#let top-margin = 30mm
#let gap = 6mm

// ---- faces and colours
#let serif = ("Source Serif 4",)
#let sans = ("Source Sans 3",)
#let mono = ("Source Code Pro",)
#let blue = rgb("#12305f")
#let seal = rgb("#b93a25")
#let amber = rgb("#8a5a00")
#let ink = rgb("#1f2431")
#let grey = rgb("#5f6575")
#let hair = rgb("#c9c3b4")

#set document(title: facts.title, author: facts.authors, keywords: facts.keywords, date: auto)
#set text(font: serif, size: 9.6pt, lang: doc.lang.split("-").first(), dir: if doc.dir == "rtl" { rtl } else { ltr }, fill: ink, number-type: "old-style", overhang: false, hyphenate: true, costs: (widow: 300%, orphan: 300%, runt: 200%))
#set par(justify: true, leading: 0.66em, spacing: 0.85em, linebreaks: "optimized")
#set heading(numbering: none)
#show heading: it => it.body
#show heading: set text(hyphenate: false, size: 1em, weight: "regular")
#show raw: set text(font: mono, size: 8.2pt, number-type: "lining")
#show link: it => it
#show footnote.entry: set text(size: 8pt)
#set footnote.entry(separator: line(length: 22mm, stroke: 0.4pt + hair))

// ---- marks that the layout reads back
#let at(id) = [#metadata((at: id))#label(id)]
#let runs = <run>
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
#let running() = {
  let p = here().page()
  let found = query(runs).filter(x => x.location().page() <= p)
  if found.len() == 0 { none } else { found.last().value }
}
#let lining(body) = text(font: sans, number-type: "lining", body)

#let page-header = context {
  if is-blank() or is-opening() { return }
  set text(font: sans, size: 8pt, fill: grey, number-type: "lining")
  let chapter = running()
  if calc.odd(here().page()) {
    [#h(1fr) #if chapter != none { if chapter.num != "" { chapter.num + "   " }; chapter.label }]
  } else { [#facts.title #h(1fr)] }
  v(-1.8mm)
  line(length: 100%, stroke: 0.35pt + hair)
}
#let page-footer = context {
  if is-blank() { return }
  set text(font: sans, size: 8.2pt, fill: grey, number-type: "lining")
  let about = (facts.number, facts.edition).filter(x => x != "").join(" · ")
  let shown = text(fill: ink, weight: 600, counter(page).display())
  if calc.odd(here().page()) [#about #h(1fr) #shown] else [#shown #h(1fr) #about]
}
#set page(paper: "a4", margin: (inside: inner, outside: outside, top: top-margin, bottom: 26mm), header: page-header, footer: page-footer, header-ascent: 10mm, footer-descent: 10mm, binding: left)

// A mark in the margin column, level with what follows, wherever that is indented to.
#let in-margin(body, dy: 0pt) = context {
  let here-x = here().position().x
  let odd = calc.odd(here().page())
  let x = if odd { page.width - outside + gap } else { outside - gap - (side - gap) }
  let width = side - gap
  place(top + left, dx: x - here-x, dy: dy, box(width: width, align(if odd { left } else { right }, body)))
}

// ---- signs of notes, drawn on an 8 mm square
#let sign(kind, colour) = {
  let stroke = (paint: colour, thickness: 1.1pt, join: "round", cap: "round")
  box(width: 8mm, height: 8mm, {
    if kind in ("danger", "warning", "caution") {
      place(polygon(stroke: stroke, fill: if kind == "danger" { colour } else { none }, (4mm, 0.5mm), (7.8mm, 7.2mm), (0.2mm, 7.2mm)))
      let mark = if kind == "danger" { white } else { colour }
      place(dx: 4mm, dy: 2.8mm, line(end: (0pt, 2.1mm), stroke: 1.1pt + mark))
      place(dx: 4mm, dy: 5.9mm, line(end: (0pt, 0.2mm), stroke: (paint: mark, thickness: 1.3pt, cap: "round")))
    } else if kind in ("notice", "attention", "important", "restriction", "trouble") {
      place(dx: 0.5mm, dy: 0.5mm, rect(width: 7mm, height: 7mm, radius: 1mm, stroke: stroke))
      place(dx: 4mm, dy: 2.2mm, line(end: (0pt, 2.4mm), stroke: stroke))
      place(dx: 4mm, dy: 5.7mm, line(end: (0pt, 0.2mm), stroke: stroke))
    } else if kind in ("tip", "fastpath") {
      place(dx: 0.5mm, dy: 0.5mm, circle(radius: 3.5mm, stroke: stroke))
      place(dx: 2.2mm, dy: 4.1mm, line(end: (1.4mm, 1.4mm), stroke: stroke))
      place(dx: 3.6mm, dy: 5.5mm, line(end: (2.4mm, -3mm), stroke: stroke))
    } else {
      place(dx: 0.5mm, dy: 0.5mm, circle(radius: 3.5mm, stroke: stroke))
      place(dx: 4mm, dy: 2.5mm, line(end: (0pt, 0.1mm), stroke: (paint: colour, thickness: 1.4pt, cap: "round")))
      place(dx: 4mm, dy: 3.9mm, line(end: (0pt, 1.9mm), stroke: stroke))
    }
  })
}
#let note-colour(kind) = if kind in ("danger", "warning") { seal } else if kind in ("caution", "notice", "attention", "important", "restriction") { amber } else { blue }

// ---- lines of text
#let page-of(id) = context {
  let l = locate(label(id))
  numbering(if l.page-numbering() == none { "1" } else { l.page-numbering() }, ..counter(page).at(l))
}
#let walk-lines(xs) = xs.map(x => {
  if type(x) == str { x } else if x.t == "b" { strong(walk-lines(x.c)) } else if x.t == "i" { emph(walk-lines(x.c)) } else if x.t == "ui" {
    text(font: sans, weight: 600, size: 0.95em, number-type: "lining", walk-lines(x.c))
  } else if x.t == "code" { text(font: mono, size: 0.86em, number-type: "lining", hyphenate: false, walk-lines(x.c)) } else if x.t == "u" { underline(walk-lines(x.c)) } else if x.t == "sup" { super(walk-lines(x.c)) } else if x.t == "sub" { sub(walk-lines(x.c)) } else if x.t == "strike" { strike(walk-lines(x.c)) } else if x.t == "q" { quote(walk-lines(x.c)) } else if x.t == "at" { at(x.id) } else if x.t == "url" { link(x.href, text(fill: blue, walk-lines(x.c))) } else if x.t == "ref" {
    if x.to == "" { walk-lines(x.c) } else {
      link(label(x.to), text(fill: blue, if x.c.len() == 0 { [#words.page~#page-of(x.to)] } else { walk-lines(x.c); if x.page { [ #words.onPage~#page-of(x.to)] } }))
    }
  } else if x.t == "fn" { footnote(x.c.map(b => if b.t == "p" { walk-lines(b.c) } else { [] }).join([ ])) } else if x.t == "img" {
    box(baseline: 20%, image(x.src, alt: x.alt, ..if "w" in x { (width: float(x.w) * 1mm) } else { (height: 1.1em) }))
  } else if x.t == "mark" {
    let body = if "fg" in x { text(fill: rgb(x.fg), walk-lines(x.c)) } else { walk-lines(x.c) }
    if "bg" in x { highlight(fill: rgb(x.bg), body) } else { body }
  } else { panic("inline " + x.t) }
}).join()

// ---- blocks
#let keep-lines(xs) = {
  // Line ends and spaces of preformatted text are kept.
  let keep(x) = if type(x) == str { x.split("\n").map(l => l.replace("\t", "    ").replace(regex("^ +"), m => "\u{a0}" * m.text.len()).replace("  ", "\u{a0} ")).join(linebreak()) } else { walk-lines((x,)) }
  xs.map(keep).join()
}
#let caption(word, b) = {
  set par(justify: false)
  set text(font: sans, size: 8.4pt, number-type: "lining")
  if "num" in b { text(weight: 600, fill: blue, word + " " + b.num); h(0.8em) }
  walk-lines(b.cap)
}
#let picture(b) = {
  if b.at("missing", default: false) {
    block(width: 100%, stroke: (paint: seal, thickness: 0.6pt, dash: "dashed"), inset: 4mm, text(font: sans, size: 8.4pt, fill: seal, if b.alt == "" { "—" } else { b.alt }))
  } else {
    let shown = image(b.src, alt: if b.alt == "" { none } else { b.alt }, ..if "w" in b { (width: calc.min(float(b.w), 128) * 1mm) } else { (width: 100%) })
    block(width: 100%, above: 0.6em, below: 0.6em, if b.alt == "" { pdf.artifact(shown) } else { shown })
  }
}
#let table-block(b, walk) = {
  let cols = b.cols.map(c => if "fr" in c { c.fr * 1fr } else { c.mm * 1mm })
  let align-of(c) = (if c.at("al", default: none) == "right" { right } else if c.at("al", default: none) == "center" { center } else { start }) + (if c.at("va", default: none) == "middle" { horizon } else if c.at("va", default: none) == "bottom" { bottom } else { top })
  let body(c) = { set par(justify: false, leading: 0.5em, spacing: 0.55em); walk(c.c) }
  let cell(c, y) = table.cell(x: c.x, y: y, colspan: c.cs, rowspan: c.rs, align: align-of(c), if c.head { text(weight: 600, body(c)) } else { body(c) })
  let heads = b.head.len()
  // A short table that breaks leaves one row alone; a long one must break.
  block(above: 1.4em, below: 1.5em, width: 100%, breakable: b.rows.len() > 10, {
    for id in b.at { at(id) }
    set text(font: sans, size: 8.5pt, number-type: "lining", number-width: "tabular")
    if "cap" in b { block(below: 0.75em, sticky: true, caption(words.table, b)) }
    let last = heads + b.rows.len()
    table(
      columns: cols,
      inset: (x, y) => (left: if x == 0 { 0pt } else { 2mm }, right: 2mm, top: 1.35mm, bottom: 1.35mm),
      stroke: (x, y) => (
        top: if y == 0 { 0.9pt + ink } else if y == heads and heads > 0 { 0.6pt + ink } else if y > 0 and (y <= heads or b.rows.at(y - heads - 1).ruled) { 0.35pt + hair } else { none },
        bottom: if y == last - 1 { 0.9pt + ink } else { none },
      ),
      ..if heads > 0 { (table.header(repeat: true, ..b.head.enumerate().map(((y, r)) => r.map(c => cell(c, y))).flatten()),) },
      ..b.rows.enumerate().map(((y, r)) => r.cells.map(c => cell(c, y + heads))).flatten(),
    )
  })
}

#let walk(bs) = for b in bs {
  if b.t == "p" { par(walk-lines(b.c)) } else if b.t == "lead" {
    block(above: 1em, below: 1.3em, sticky: true, { set par(justify: false, leading: 0.62em); text(size: 10.6pt, style: "italic", fill: rgb("#444a5a"), walk-lines(b.c)) })
  } else if b.t == "label" {
    block(above: 1.5em, below: 0.75em, sticky: true, text(font: sans, size: 9pt, weight: 600, fill: grey, number-type: "lining", walk-lines(b.c)))
  } else if b.t == "h" {
    block(above: 1.9em, below: 0.8em, sticky: true, { for id in b.at { at(id) }; set par(justify: false); text(font: sans, size: 10.8pt, weight: 600, fill: ink, number-type: "lining", walk-lines(b.c)) })
  } else if b.t == "at" { at(b.id) } else if b.t == "ul" {
    block(above: 0.9em, below: 1em, list(marker: text(fill: blue)[•], indent: 0pt, body-indent: 3mm, spacing: 0.75em, ..b.items.map(i => walk(i))))
  } else if b.t == "sl" {
    block(above: 0.7em, below: 1em, for i in b.items { block(above: 0.55em, below: 0.55em, { set par(justify: false, hanging-indent: 3mm); walk(i) }) })
  } else if b.t == "ol" or b.t == "steps" {
    let from = b.at("start", default: 1)
    block(above: 0.95em, below: 1em, enum(
      start: from, indent: 0pt, body-indent: 3mm, number-align: start + top, spacing: if b.t == "steps" { 1.05em } else { 0.8em },
      numbering: n => box(width: 3.6mm, text(font: sans, weight: 600, fill: blue, number-type: "lining", str(n) + if b.t == "ol" { "." } else { "" })),
      ..b.items.map(i => enum.item(walk(i))),
    ))
  } else if b.t == "dl" {
    block(above: 0.9em, below: 1em, for i in b.items {
      block(above: 0.8em, below: 0.8em, { block(below: 0.4em, sticky: true, for d in i.dt { text(font: sans, weight: 600, size: 9.2pt, walk-lines(d)); h(0.6em) }); pad(left: 6.5mm, walk(i.dd)) })
    })
  } else if b.t == "note" {
    let colour = note-colour(b.kind)
    block(breakable: false, width: 100%, above: 1.45em, below: 1.45em, {
      in-margin(sign(b.kind, colour), dy: 0.6mm)
      block(width: 100%, above: 0pt, below: 0pt, stroke: (top: 0.6pt + colour, bottom: 0.6pt + colour), inset: (y: 2.3mm), {
        set par(justify: false)
        let first = b.c.at(0, default: none)
        let lead = { text(font: sans, weight: 700, fill: colour, size: 9pt, b.word); h(0.7em) }
        if first != none and first.t == "p" { par({ lead; walk-lines(first.c) }); walk(b.c.slice(1)) } else { par(lead); walk(b.c) }
      })
    })
  } else if b.t == "code" {
    block(above: 1em, below: 1.1em, width: 100%, fill: rgb("#f6f4ee"), inset: (x: 3mm, y: 2.6mm), radius: 1mm, { set par(justify: false, leading: 0.55em); set text(font: mono, size: 8.2pt, number-type: "lining", hyphenate: false); keep-lines(b.c) })
  } else if b.t == "lines" {
    block(above: 0.8em, below: 1em, { set par(justify: false); keep-lines(b.c) })
  } else if b.t == "quote" {
    block(above: 1em, below: 1em, inset: (left: 5mm), stroke: (left: 0.8pt + hair), { set text(style: "italic"); walk(b.c) })
  } else if b.t == "img" { picture(b) } else if b.t == "group" { walk(b.c) } else if b.t == "mark" {
    block(
      width: 100%, fill: if "bg" in b { rgb(b.bg) }, outset: (x: 1.2mm, y: 0.8mm), stroke: if b.at("bar", default: false) { (left: 1.4pt + ink) },
      if "fg" in b { text(fill: rgb(b.fg), walk(b.c)) } else { walk(b.c) },
    )
  } else if b.t == "fig" {
    block(above: 1.4em, below: 1.5em, breakable: false, width: 100%, {
      for id in b.at { at(id) }
      walk(b.c)
      if "cap" in b { block(above: 0.8em, caption(words.figure, b)) }
    })
  } else if b.t == "table" { table-block(b, walk) } else { panic("block " + b.t) }
}
// ---- places
#let bookmark(p, level, body) = [#heading(level: calc.min(level, 6), outlined: p.listed, bookmarked: true, body)#label(p.id)]
#let shift = if doc.body.any(p => p.role == "part") { 1 } else { 0 }
#let opening(p, word: none) = {
  pagebreak(to: "odd", weak: true)
  [#metadata(none)#opens]
  [#metadata((num: if p.num == none { "" } else { p.num }, label: p.label))#runs]
  v(14mm)
  block(below: 11mm, {
    set par(justify: false)
    if p.num != none {
      block(below: 6mm, { if word != none { text(font: sans, size: 11pt, fill: grey, word + " ") }; text(font: serif, size: 44pt, fill: blue, number-type: "lining", p.num) })
    }
    block(above: 0pt, below: 5mm, text(font: serif, size: 25pt, fill: ink, bookmark(p, calc.max(1, p.level + shift), walk-lines(p.title))))
    line(length: 22mm, stroke: 1.4pt + seal)
  })
}
#let section-heading(p) = {
  let sizes = (13.5pt, 11.5pt, 10.4pt)
  let size = sizes.at(calc.clamp(p.level - 2, 0, 2))
  block(above: 2.6em, below: 1.1em, sticky: true, {
    set par(justify: false)
    set text(font: sans, weight: 600, size: size, fill: blue, number-type: "lining")
    if p.num != none { p.num; h(0.55em) }
    bookmark(p, p.level + shift, text(weight: 600, walk-lines(p.title)))
  })
}
#let sections(ps) = for p in ps { if p.headed { section-heading(p) } else { at(p.id) }; walk(p.c); sections(p.places) }

#let all-places(ps) = ps.map(p => (p,) + all-places(p.places)).flatten()
#let contents-line(p, depth) = {
  let strong-line = depth == 0
  let n = if p.num == none { "" } else { p.num }
  block(above: if strong-line { 1.35em } else { 0.62em }, below: 0.5em, sticky: strong-line, link(label(p.id), {
    set par(justify: false)
    grid(columns: (10mm, 1fr, 10mm), align: (left, left, right + bottom),
      text(font: sans, size: if strong-line { 9.6pt } else { 8.6pt }, weight: if strong-line { 600 } else { 400 }, fill: if strong-line { blue } else { grey }, number-type: "lining", n),
      if strong-line { text(font: sans, weight: 600, p.label) } else { [#p.label #box(width: 1fr, inset: (x: 2mm), repeat(gap: 1.6mm, text(fill: rgb("#b9b3a4"))[.]))] },
      text(font: sans, size: 8.8pt, weight: if strong-line { 600 } else { 400 }, number-type: "lining", page-of(p.id)))
  }))
}
#let contents(ps, depth) = for p in ps {
  if p.listed and p.role not in ("toc",) { contents-line(p, depth) }
  if depth < 1 { contents(p.places, depth + 1) } else if p.role == "part" { contents(p.places, depth + 1) }
}
#let list-of(xs) = for x in xs {
  block(above: 0.7em, below: 0.6em, link(label(x.id), { set par(justify: false); grid(columns: (12mm, 1fr, 10mm), align: (left, left, right + bottom), text(font: sans, size: 8.6pt, fill: grey, number-type: "lining", x.num), [#walk-lines(x.cap) #box(width: 1fr, inset: (x: 2mm), repeat(gap: 1.6mm, text(fill: rgb("#b9b3a4"))[.]))], text(font: sans, size: 8.8pt, number-type: "lining", page-of(x.id))) }))
}
#let locators(ats) = {
  // By sheet, so that the Roman pages of the front matter stay before the others and never run together with them.
  let shown(l) = numbering(if l.page-numbering() == none { "1" } else { l.page-numbering() }, ..counter(page).at(l))
  let found = ats.map(a => {
    let from = locate(label(a.from))
    let to = if a.until == none { from } else { locate(label(a.until)) }
    (p: from.page(), u: to.page(), style: from.page-numbering(), first: from, last: to)
  }).sorted(key: x => x.p)
  let out = ()
  for x in found {
    if out.len() > 0 and x.style == out.last().style and x.p <= out.last().u { let o = out.pop(); if x.u > o.u { o.u = x.u; o.last = x.last }; out.push(o) } else { out.push(x) }
  }
  out.map(r => link(r.first, if r.p == r.u { shown(r.first) } else { shown(r.first) + "–" + shown(r.last) })).join(", ")
}
#let index-line(e, depth) = {
  par(hanging-indent: 4mm * (depth + 2), { h(4mm * depth); e.term; if e.at.len() > 0 { [, ]; context locators(e.at) }; if e.see.len() > 0 { [, #emph(words.see) #e.see.join("; ")] }; if e.also.len() > 0 { [; #emph(words.seeAlso) #e.also.join("; ")] } })
  for s in e.sub { index-line(s, depth + 1) }
}
#let listing(p) = {
  opening(p)
  if p.role == "toc" { contents(doc.front.filter(x => x.role != "toc") + doc.body + doc.back, 0) } else if p.role == "figurelist" { list-of(doc.figures) } else if p.role == "tablelist" { list-of(doc.tables) } else if p.role == "glossarylist" {
    for g in doc.glossary { block(above: 1.1em, below: 1.1em, { block(below: 0.45em, sticky: true, { at(g.id); text(font: sans, weight: 600, g.term) }); walk(g.c) }) }
  } else if p.role == "indexlist" {
    set text(size: 8.6pt, font: sans, number-type: "lining")
    set par(justify: false, spacing: 0.5em, leading: 0.5em)
    columns(2, gutter: 7mm, for g in doc.index { block(sticky: true, above: 1.3em, below: 0.6em, text(font: serif, size: 13pt, fill: blue, g.letter)); for e in g.entries { index-line(e, 0) } })
  } else { walk(p.c); sections(p.places) }
  [#metadata(none)#closes]
}
#let chapter(p) = {
  if p.role == "part" {
    opening(p, word: words.part)
    walk(p.c)
    [#metadata(none)#closes]
    for c in p.places { chapter(c) }
  } else {
    opening(p, word: if p.role == "appendix" { words.appendix } else { none })
    walk(p.c)
    sections(p.places)
    [#metadata(none)#closes]
  }
}

// ---- cover
#page(header: none, footer: none, numbering: none, margin: (left: 30mm, right: 30mm, top: 34mm, bottom: 30mm), {
  place(top + left, dx: -30mm, dy: -34mm, rect(width: 210mm, height: 92mm, fill: gradient.linear(blue, rgb("#1c4587"), rgb("#b9c9dd"), rgb("#ffffff"), angle: 90deg)))
  set par(justify: false)
  if facts.series != "" { text(font: sans, size: 12pt, fill: white, weight: 600, facts.series) }
  v(86mm)
  text(font: serif, size: 32pt, fill: ink, number-type: "lining", hyphenate: false, facts.title)
  v(3mm)
  if facts.subtitle != "" { text(font: serif, size: 15pt, style: "italic", fill: grey, facts.subtitle); v(4mm) }
  line(length: 22mm, stroke: 1.6pt + seal)
  v(1fr)
  set text(font: sans, size: 9.5pt, fill: grey, number-type: "lining")
  (facts.number, facts.edition).filter(x => x != "").join(" · ")
  linebreak()
  facts.rights
  [#metadata(none)#closes]
})
#[
  #set page(numbering: "i")
  #if doc.front.len() > 0 { pagebreak(to: "odd", weak: true); counter(page).update(1) }
  #for p in doc.front { listing(p) }
]
#[
  #set page(numbering: "1")
  #pagebreak(to: "odd", weak: true)
  #counter(page).update(1)
  #for p in doc.body { chapter(p) }
  #for p in doc.back { listing(p) }
]

// ---- read back: where everything that can be led to stands
#context [#metadata(
  (query(metadata).filter(m => type(m.value) == dictionary and "at" in m.value) + query(heading)).filter(m => m.at("label", default: none) != none).map(m => {
    let l = m.location()
    (id: str(m.label), sheet: l.page(), shown: numbering(if l.page-numbering() == none { "1" } else { l.page-numbering() }, ..counter(page).at(l)))
  }),
)<pages>]
