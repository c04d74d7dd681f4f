// The one template of printed manuals: walks /doc.json. No text of a person is ever read as markup.
// Content, numbers and order come from the document, how they look from its styles and page plan; only page numbers are looked up here.
#let doc = json("/doc.json")
#let words = doc.words
#let facts = doc.facts
#let plan = doc.design.plan
#let is-rtl = doc.dir == "rtl"

// ---- styles: what each says as arguments of text, paragraphs and blocks
#let measure-of(m) = if "pt" in m { m.pt * 1pt } else { m.em * 1em }
#let start-edge = if is-rtl { "right" } else { "left" }
#let end-edge = if is-rtl { "left" } else { "right" }
#let stroke-of(rule) = rule.pt * 1pt + rgb(rule.fill)
#let prepared(s) = {
  let letters = (:)
  if "font" in s { letters.font = (s.font, "Source Serif 4", "Source Sans 3") }
  if "size" in s { letters.size = measure-of(s.size) }
  if "weight" in s { letters.weight = s.weight }
  if "slant" in s { letters.style = s.slant }
  if "fill" in s { letters.fill = rgb(s.fill) }
  if "tracking" in s { letters.tracking = measure-of(s.tracking) }
  if "figures" in s { letters.number-type = s.figures }
  if "tabular" in s { letters.number-width = if s.tabular { "tabular" } else { "proportional" } }
  if "hyphenate" in s { letters.hyphenate = s.hyphenate }
  let lines = (:)
  if "align" in s { lines.justify = s.align == "both" }
  if "leading" in s { lines.leading = s.leading * 1em }
  if "firstLine" in s { if s.firstLine < 0 { lines.hanging-indent = -s.firstLine * 1pt } else { lines.first-line-indent = (amount: s.firstLine * 1pt, all: true) } }
  let rules = s.at("rules", default: (:))
  let has-ground = "ground" in s
  let padding = s.at("padding", default: 0) * 1pt
  let inside(edge) = if has-ground or edge in rules { padding } else { 0pt }
  let stroke = (:)
  if "top" in rules { stroke.top = stroke-of(rules.top) }
  if "bottom" in rules { stroke.bottom = stroke-of(rules.bottom) }
  if "start" in rules { stroke.insert(start-edge, stroke-of(rules.start)) }
  if "end" in rules { stroke.insert(end-edge, stroke-of(rules.end)) }
  let inset = (top: inside("top"), bottom: inside("bottom"))
  inset.insert(start-edge, inside("start"))
  inset.insert(end-edge, inside("end"))
  let frame = (width: 100%, above: s.at("above", default: 0) * 1pt, below: s.at("below", default: 0) * 1pt, stroke: stroke, inset: inset, sticky: s.at("keepNext", default: false), breakable: not s.at("keepTogether", default: false))
  if has-ground { frame.fill = rgb(s.ground) }
  if "corner" in s { frame.radius = s.corner * 1pt }
  (letters: letters, lines: lines, frame: frame, said: s)
}
#let styles = {
  let out = (:)
  for (id, s) in doc.design.styles { out.insert(id, prepared(s)) }
  out
}
#let pt-of(id, name) = styles.at(id).said.at(name, default: 0) * 1pt
#let aligned(s, body) = {
  let to = s.said.at("align", default: none)
  if to == "centre" { align(center, body) } else if to == "end" { align(end, body) } else { body }
}
// What stands before and after, case and lines: what a style says of words beside their letters.
#let with-words(said, body) = {
  let inner = { if "prefix" in said { said.prefix }; body; if "suffix" in said { said.suffix } }
  if said.at("case", default: none) == "capitals" { inner = upper(inner) }
  if said.at("case", default: none) == "small capitals" { inner = smallcaps(inner) }
  if said.at("line", default: none) == "under" { inner = underline(inner) }
  if said.at("line", default: none) == "through" { inner = strike(inner) }
  inner
}
#let lettered(s, body) = if s.letters.len() > 0 { text(..s.letters, body) } else { body }
// Words in a style that no frame is around; `framed` says all of this itself.
#let worded(s, body) = lettered(s, with-words(s.said, body))
#let inline-styled(id, body) = {
  let s = styles.at(id)
  let shown = worded(s, body)
  if "ground" in s.said { highlight(fill: rgb(s.said.ground), shown) } else { shown }
}
// Styles that say nothing leave nothing behind: in a long manual each of them costs memory.
#let in-manner(s, body) = {
  let shown = aligned(s, body)
  if s.lines.len() > 0 { shown = { set par(..s.lines); shown } }
  if s.letters.len() > 0 { text(..s.letters, shown) } else { shown }
}

// ---- page plan
#let colours = doc.design.colours
#let ink = rgb(colours.at("ink", default: "#000000"))
#let seal = rgb(colours.at("danger", default: "#b00000"))
#let base = styles.text
#set document(title: facts.title, author: facts.authors, keywords: facts.keywords, date: none)
// A line is as high as its letters are large, a fifth of it below the baseline: line heights are then what they say, as on a screen.
#let line-top = 0.8em
#set text(lang: doc.lang.split("-").first(), region: if doc.lang.contains("-") and doc.lang.split("-").last().len() == 2 { doc.lang.split("-").last() }, dir: if is-rtl { rtl } else { ltr }, overhang: false, top-edge: line-top, bottom-edge: -0.2em, costs: (widow: 300%, orphan: 300%, runt: 200%), ..base.letters)
#set par(..base.lines, linebreaks: "optimized", spacing: calc.max(pt-of("paragraph", "above"), pt-of("paragraph", "below")))
#set text(..styles.paragraph.letters)
#set par(..styles.paragraph.lines)
// Paragraphs are set as they come, unless their style says more than letters and lines.
#let frames-paragraphs = ("rules", "ground", "start", "end", "prefix", "suffix", "case", "line", "column", "columns", "keepNext", "keepTogether").any(name => name in styles.paragraph.said)
#set heading(numbering: none)
#show heading: it => it.body
#show heading: set text(hyphenate: false, size: 1em, weight: "regular")
#show link: it => it
#show footnote.entry: it => in-manner(styles.footnote, it)
#set footnote.entry(separator: line(length: 22mm, stroke: 0.4pt + rgb(colours.at("hair", default: "#999999"))))

// ---- marks that the layout reads back
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
  } else if f.field == "page" { worded(styles.page-number, shown-page(here())) } else if f.field == "pages" { str(counter(page).final().first()) } else if f.field == "number" { facts.number } else if f.field == "edition" { facts.edition } else if f.field == "rights" { facts.rights } else { f.words }
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
#let page-header = context {
  if is-blank() or (is-opening() and not plan.headOnOpenings) { return }
  running-line(if calc.odd(here().page()) { plan.heads.odd } else { plan.heads.even }, "running-head")
  let rule = styles.running-head.said.at("rules", default: (:)).at("bottom", default: none)
  if plan.headRule and rule != none { v(-1.2mm); line(length: 100%, stroke: stroke-of(rule)) }
}
#let page-footer = context {
  if is-blank() { return }
  running-line(if calc.odd(here().page()) { plan.feet.odd } else { plan.feet.even }, "running-foot")
}
#let page-ground = context {
  if plan.watermark != "" { place(center + horizon, rotate(-52deg, text(font: styles.heading-2.letters.at("font", default: "Source Sans 3"), size: plan.width * 0.16mm, weight: 700, fill: luma(92%), plan.watermark))) }
  if plan.blank != "" and is-blank() { place(center + horizon, in-manner(styles.running-foot, plan.blank)) }
}
#let margin-inside = (if is-rtl { plan.width - plan.odd.text - plan.textWidth } else { plan.odd.text }) * 1mm
#let margin-outside = (plan.width - plan.textWidth) * 1mm - margin-inside
#let is-mirrored = plan.odd.text != plan.even.text
// Without a ground: as an image of all pages, that of a later page would cover those before it.
#set page(
  fill: none, width: plan.width * 1mm, height: plan.height * 1mm,
  margin: if is-mirrored { (inside: margin-inside, outside: margin-outside, top: plan.top * 1mm, bottom: plan.bottom * 1mm) } else { (left: plan.odd.text * 1mm, right: (plan.width - plan.textWidth - plan.odd.text) * 1mm, top: plan.top * 1mm, bottom: plan.bottom * 1mm) },
  header: page-header, footer: page-footer, header-ascent: calc.min(10, plan.top * 0.33) * 1mm, footer-descent: calc.min(10, plan.bottom * 0.38) * 1mm, background: page-ground,
)

// ---- the margin column
#let has-column = plan.columnWidth > 0
// Something in the margin column, level with what follows, wherever that is indented to.
#let in-margin(body, dy: 0pt) = context {
  let side = if calc.odd(here().page()) { plan.odd } else { plan.even }
  let is-left = side.column < side.text
  place(top + left, dx: side.column * 1mm - here().position().x, dy: dy, box(width: plan.columnWidth * 1mm, align(if is-left { right } else { left }, body)))
}
#let over-both(body) = context {
  let side = if calc.odd(here().page()) { plan.odd } else { plan.even }
  let more = (plan.columnWidth + plan.columnGap) * 1mm
  if side.column < side.text { pad(left: -more, body) } else { pad(right: -more, body) }
}
#let framed(s, body, sticky: auto) = {
  let frame = s.frame
  if sticky != auto { frame.sticky = sticky }
  let said = s.said
  let inner = in-manner(s, with-words(said, body))
  if "columns" in said { inner = columns(said.columns, gutter: 5mm, inner) }
  let shown = block(..frame, inner)
  let sides = (:)
  if "start" in said { sides.insert(start-edge, said.start * 1pt) }
  if "end" in said { sides.insert(end-edge, said.end * 1pt) }
  let place-of = said.at("column", default: none)
  if place-of == "margin" and has-column { return block(width: 100%, height: 0pt, above: frame.above, below: 0pt, sticky: true, in-margin(block(..frame, above: 0pt, below: 0pt, inner))) }
  if sides.len() > 0 { shown = block(above: frame.above, below: frame.below, sticky: frame.sticky, breakable: frame.breakable, width: 100%, pad(..sides, block(..frame, above: 0pt, below: 0pt, inner))) }
  if place-of == "both" and has-column { block(above: frame.above, below: frame.below, width: 100%, over-both(block(..frame, above: 0pt, below: 0pt, inner))) } else { shown }
}

// ---- lines of text
#let page-of(id) = context shown-page(locate(label(id)))
// “on page 12”; “on the next page” where that is so; nothing where it is this page.
#let on-page(id) = context {
  let target = locate(label(id))
  let away = target.page() - here().page()
  if away == 1 { [ #words.onNextPage] } else if away != 0 { [ #words.onPage~#shown-page(target)] }
}
#let manners = (b: "bold", i: "italic", ui: "control", code: "code", q: "quoted")
#let walk-lines(xs) = xs.map(x => {
  if type(x) == str { x } else if x.t in manners {
    let inner = walk-lines(x.c)
    if x.t == "q" { inner = quote(inner) }
    inline-styled(x.at("s", default: manners.at(x.t)), inner)
  } else if x.t == "s" { inline-styled(x.s, walk-lines(x.c)) } else if x.t == "u" { underline(walk-lines(x.c)) } else if x.t == "sup" { super(walk-lines(x.c)) } else if x.t == "sub" { sub(walk-lines(x.c)) } else if x.t == "strike" { strike(walk-lines(x.c)) } else if x.t == "at" { at(x.id) } else if x.t == "url" { link(x.href, inline-styled("link", walk-lines(x.c))) } else if x.t == "ref" {
    if x.to == "" { walk-lines(x.c) } else {
      link(label(x.to), inline-styled("link", if x.c.len() == 0 { [#words.page~#page-of(x.to)] } else { walk-lines(x.c); if x.page { on-page(x.to) } }))
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
#let number-of(id, n) = {
  let form = styles.at(id).said.at("numbers", default: "1")
  if form == "01" { if n < 10 { "0" + str(n) } else { str(n) } } else { numbering(form, n) }
}
#let caption(word, b) = {
  if "num" in b { inline-styled("caption-number", word + " " + b.num); h(0.8em) }
  walk-lines(b.cap)
}
#let sign-disc(sign) = {
  set text(..styles.caption-number.letters)
  box(width: 4.4mm, height: 4.4mm, fill: rgb(colours.at("accent", default: "#12305f")), radius: 50%, stroke: 0.6pt + white, align(center + horizon, text(fill: white, size: 7pt, sign)))
}
#let picture(b) = {
  if b.at("missing", default: false) {
    block(width: 100%, stroke: (paint: seal, thickness: 0.6pt, dash: "dashed"), inset: 4mm, text(size: 8.4pt, fill: seal, if b.alt == "" { "—" } else { b.alt }))
  } else {
    let most = plan.textWidth * 1mm
    let shown = image(b.src, alt: if b.alt == "" { none } else { b.alt }, ..if "w" in b { (width: calc.min(float(b.w) * 1mm, most)) } else { (width: 100%) })
    // An image that is higher than the page is made to fit.
    let fitted = layout(size => {
      let room = (plan.height - plan.top - plan.bottom) * 1mm * 0.86
      let natural = measure(shown, width: size.width)
      let share = if natural.height > room { room / natural.height } else { 1 }
      let drawn = if share < 1 { scale(reflow: true, share * 100%, shown) } else { shown }
      if "spots" not in b { return drawn }
      box({
        drawn
        for s in b.spots { place(top + left, dx: s.x * natural.width * share - 2.2mm, dy: s.y * natural.height * share - 2.2mm, pdf.artifact(sign-disc(s.sign))) }
      })
    })
    block(width: 100%, above: 0.6em, below: 0.6em, if b.alt == "" { pdf.artifact(fitted) } else { fitted })
  }
}
#let table-block(b, walk) = {
  let s = styles.at(b.at("s", default: "table"))
  let cols = b.cols.map(c => if "fr" in c { c.fr * 1fr } else { c.mm * 1mm })
  let align-of(c) = (if c.at("al", default: none) == "right" { right } else if c.at("al", default: none) == "center" { center } else { start }) + (if c.at("va", default: none) == "middle" { horizon } else if c.at("va", default: none) == "bottom" { bottom } else { top })
  let (cells, head-cells) = (styles.table-cell, styles.table-head)
  let body(c) = walk(c.c)
  let cell(c, y) = table.cell(x: c.x, y: y, colspan: c.cs, rowspan: c.rs, align: align-of(c), if c.head { in-manner(head-cells, body(c)) } else { in-manner(cells, body(c)) })
  let has-caption = "cap" in b
  let first = if has-caption { 1 } else { 0 }
  let heads = b.head.len()
  let pad-y = cells.said.at("padding", default: 3) * 1pt
  let pad-x = pad-y * 1.5
  let rule-of(s, edge) = { let r = s.said.at("rules", default: (:)); if edge in r { stroke-of(r.at(edge)) } else { none } }
  let (above, below) = (rule-of(s, "top"), rule-of(s, "bottom"))
  let (under-head, between) = (rule-of(head-cells, "bottom"), rule-of(cells, "top"))
  let band = styles.table-band.said.at("ground", default: none)
  let top-row = first
  let body-row = first + heads
  let last = body-row + b.rows.len() - 1
  // A short table that breaks leaves one row alone; a long one must break.
  let breaks = b.rows.len() > 10
  // The title is part of the head, so that it is there again on further pages and says that this goes on.
  let mark = if b.at.len() > 0 { b.at.first() } else { none }
  let title-cell = if has-caption {
    table.cell(x: 0, y: 0, colspan: b.cols.len(), inset: (left: 0pt, right: 0pt, top: 0pt, bottom: pt-of("table-title", "below")), stroke: none, fill: none, align: start, in-manner(styles.table-title, {
      caption(words.table, b)
      if breaks and mark != none { context if locate(label(mark)).page() != here().page() { [ (#words.continued)] } }
    }))
  }
  let frame = s.frame
  frame.stroke = none
  frame.inset = 0pt
  frame.breakable = breaks
  let shown = block(..frame, {
    for id in b.at { at(id) }
    set par(spacing: 2.5pt)
    in-manner(s, table(
      columns: cols,
      inset: (x, y) => (left: if x == 0 { 0pt } else { pad-x }, right: pad-x, top: pad-y, bottom: pad-y),
      fill: (x, y) => if band != none and y >= body-row and calc.odd(y - body-row) { rgb(band) },
      stroke: (x, y) => (
        top: if y == top-row { above } else if y == body-row and heads > 0 { under-head } else if y > top-row and (y < body-row or (y > body-row and b.rows.at(y - body-row - 1).ruled)) { between } else { none },
        bottom: if y == last { below } else { none },
      ),
      ..if heads + first > 0 { (table.header(repeat: true, ..if has-caption { (title-cell,) }, ..b.head.enumerate().map(((y, r)) => r.map(c => cell(c, y + first))).flatten()),) },
      ..b.rows.enumerate().map(((y, r)) => r.cells.map(c => cell(c, y + body-row))).flatten(),
    ))
  })
  if s.said.at("column", default: none) == "both" and has-column { over-both(shown) } else { shown }
}
#let note-block(b, walk) = {
  let id = b.at("s", default: if "note-" + b.kind in styles { "note-" + b.kind } else { "note" })
  let s = styles.at(id)
  let mark = doc.design.marks.at(b.kind, default: doc.design.marks.at("note", default: none))
  let rules = s.said.at("rules", default: (:))
  let tint = if "fill" in s.said { rgb(s.said.fill) } else if "start" in rules { rgb(rules.start.fill) } else if "top" in rules { rgb(rules.top.fill) } else { ink }
  let label = styles.note-label
  let name = { set text(fill: tint); worded(label, b.word) }
  let picture = if mark != none { image(mark.src, height: mark.size * 1pt) }
  let where = if mark == none { "none" } else if mark.place == "margin column" and not has-column { "before the text" } else { mark.place }
  // How far below the top of the first line the mark begins, so that what is to meet meets.
  let sink = context {
    let own = measure(text(top-edge: line-top, bottom-edge: "baseline")[H]).height
    let named = measure(text(..label.letters, top-edge: line-top, bottom-edge: "baseline")[H]).height
    let capitals = measure(text(..label.letters, top-edge: "cap-height", bottom-edge: "baseline")[H]).height
    let baseline = calc.max(own, named)
    let dy = if mark.meets == "top" { baseline - capitals } else { baseline - mark.size * 1pt }
    if where == "margin column" { in-margin(pdf.artifact(picture), dy: dy) } else { place(top + start, dy: dy, pdf.artifact(picture)) }
  }
  let first = b.c.at(0, default: none)
  let words-of = {
    let lead = { name; h(0.7em) }
    if first != none and first.t == "p" { par({ lead; walk-lines(first.c) }); walk(b.c.slice(1)) } else { par(lead); walk(b.c) }
  }
  let content = if where == "before the text" {
    // The words stand beside the mark, whichever way one reads.
    let sides = (:)
    sides.insert(start-edge, mark.size * 1pt + 2.2mm)
    block(width: 100%, above: 0pt, below: 0pt, { sink; pad(..sides, words-of) })
  } else if where == "above" { block(below: 1.2mm, pdf.artifact(picture)); words-of } else if where == "margin column" { block(width: 100%, above: 0pt, below: 0pt, { sink; words-of }) } else { words-of }
  framed(s, content)
}

#let walk(bs, depth: 0) = {
  let skip = false
  for (i, b) in bs.enumerate() {
    if skip { skip = false; continue }
    let own = b.at("s", default: none)
    if b.t == "p" { if own == none and not frames-paragraphs { par(walk-lines(b.c)) } else { framed(styles.at(if own == none { "paragraph" } else { own }), walk-lines(b.c)) } } else if b.t == "lead" { framed(styles.at(if own == none { "lead" } else { own }), walk-lines(b.c)) } else if b.t == "label" { framed(styles.label, walk-lines(b.c), sticky: true) } else if b.t == "h" {
      let s = styles.at(if own == none { "block-heading" } else { own })
      let body = { for id in b.at { at(id) }; walk-lines(b.c) }
      let next = bs.at(i + 1, default: none)
      if s.said.at("column", default: none) == "margin" and has-column and next != none {
        skip = true
        // Beside what follows, first line by first line.
        block(width: 100%, above: s.frame.above, below: 0pt, {
          context {
            let own = measure(text(top-edge: line-top, bottom-edge: "baseline")[H]).height
            let named = measure(text(..s.letters, top-edge: line-top, bottom-edge: "baseline")[H]).height
            in-margin(dy: own - named, in-manner(s, with-words(s.said, body)))
          }
          walk((next,), depth: depth)
        })
      } else { framed(s, body, sticky: true) }
    } else if b.t == "at" { at(b.id) } else if b.t == "from" { [#metadata(b.path)<from>] } else if b.t == "ul" {
      let id = if own != none { own } else if depth > 0 { "bullet-list-2" } else { "bullet-list" }
      let s = styles.at(id)
      let sign = s.said.at("mark", default: "•")
      framed(s, list(marker: if sign == "none" { [] } else { worded(styles.list-mark, sign) }, indent: 0pt, body-indent: s.said.at("tab", default: 8) * 1pt, spacing: s.said.at("between", default: 4) * 1pt, ..b.items.map(i => walk(i, depth: depth + 1))))
    } else if b.t == "sl" {
      let s = styles.at(if own == none { "simple-list" } else { own })
      framed(s, stack(spacing: s.said.at("between", default: 3) * 1pt, ..b.items.map(i => block(width: 100%, { set par(hanging-indent: 3mm); walk(i) }))))
    } else if b.t == "ol" or b.t == "steps" {
      let from = b.at("start", default: 1)
      let inner = depth > 0
      let id = if own != none { own } else if b.t == "steps" { if inner { "substeps" } else { "steps" } } else if inner { "numbered-list-2" } else { "numbered-list" }
      let s = styles.at(id)
      framed(s, enum(
        start: from, indent: 0pt, body-indent: s.said.at("tab", default: 8) * 1pt, number-align: start + top, spacing: s.said.at("between", default: 5) * 1pt,
        numbering: n => box(width: 3.8mm, worded(styles.at(if b.t == "steps" { "step-number" } else { "list-mark" }), number-of(id, n))),
        ..b.items.map(i => enum.item(walk(i, depth: depth + 1))),
      ))
    } else if b.t == "dl" {
      let s = styles.at(if own == none { "term-list" } else { own })
      let indent = s.said.at("start", default: 0) * 1pt
      let sides = (:)
      sides.insert(start-edge, indent)
      block(above: s.frame.above, below: s.frame.below, width: 100%, for i in b.items {
        block(above: pt-of("term-name", "above"), below: pt-of("term-name", "below"), sticky: true, for d in i.dt { worded(styles.term-name, walk-lines(d)); h(0.6em) })
        pad(..sides, in-manner(s, walk(i.dd, depth: depth)))
      })
    } else if b.t == "note" { note-block(b, walk) } else if b.t == "code" { framed(styles.at(if own == none { "code-block" } else { own }), keep-lines(b.c)) } else if b.t == "lines" { framed(styles.at(if own == none { "lines" } else { own }), keep-lines(b.c)) } else if b.t == "quote" { framed(styles.at(if own == none { "quote" } else { own }), walk(b.c)) } else if b.t == "img" { picture(b) } else if b.t == "legend" {
      in-manner(styles.figure-title, block(above: 1.6mm, below: 1.6mm, grid(columns: (6mm, 1fr), row-gutter: 1.2mm, align: (start + horizon, start + horizon), ..b.items.map(i => (sign-disc(i.sign), walk-lines(i.c))).flatten())))
    } else if b.t == "group" { if own == none { walk(b.c, depth: depth) } else { framed(styles.at(own), walk(b.c, depth: depth)) } } else if b.t == "mark" {
      block(
        width: 100%, fill: if "bg" in b { rgb(b.bg) }, outset: (x: 1.2mm, y: 0.8mm), stroke: if b.at("bar", default: false) { (left: 1.4pt + ink) },
        if "fg" in b { text(fill: rgb(b.fg), walk(b.c, depth: depth)) } else { walk(b.c, depth: depth) },
      )
    } else if b.t == "fig" {
      let s = styles.at(if own == none { "figure" } else { own })
      framed(s, {
        for id in b.at { at(id) }
        walk(b.c)
        if "cap" in b { framed(styles.figure-title, caption(words.figure, b)) }
      })
    } else if b.t == "table" { table-block(b, walk) } else { panic("block " + b.t) }
  }
}
// ---- places
#let bookmark(p, level, body) = [#heading(level: calc.min(level, 6), outlined: p.listed, bookmarked: true, body)#label(p.id)]
#let shift = if doc.body.any(p => p.role == "part") { 1 } else { 0 }
#let opening(p, word: none) = {
  if plan.begins == "odd" { pagebreak(to: "odd", weak: true) } else { pagebreak(weak: true) }
  [#metadata(none)#opens]
  [#metadata((id: p.id, num: if p.num == none { "" } else { p.num }, label: p.label))#runs]
  let s = styles.heading-1
  v(if plan.height > 220 { 14mm } else { 8mm })
  if p.num != none {
    let n = styles.heading-1-number
    framed(n, sticky: true, { if word != none { text(..styles.label.letters, size: 11pt, word + " ") }; p.num })
  }
  framed(s, bookmark(p, calc.max(1, p.level + shift), lettered(s, walk-lines(p.title))))
}
#let section-heading(p, of) = {
  let id = "heading-" + str(calc.clamp(p.level, 2, 4))
  let s = styles.at(p.at("s", default: id))
  let begins = s.said.at("begins", default: none)
  if begins == "odd" { pagebreak(to: "odd", weak: true) } else if begins == "page" { pagebreak(weak: true) }
  if p.level == 2 { [#metadata((of: of, label: p.label))#sections-run] }
  framed(s, sticky: true, {
    if p.num != none { lettered(s, p.num); h(0.55em) }
    bookmark(p, p.level + shift, lettered(s, walk-lines(p.title)))
  })
}
#let sections(ps, of) = for p in ps { if p.headed { section-heading(p, of) } else { at(p.id) }; walk(p.c); sections(p.places, of) }

// Dots from what is listed to its page.
#let leader = box(width: 1fr, inset: (x: 2mm), repeat(gap: 1.6mm, text(fill: rgb(colours.at("hair", default: "#999999")))[.]))
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
  } else { walk(p.c); sections(p.places, p.id) }
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
    walk(p.c)
    [#metadata(none)#closes]
    for c in p.places { chapter(c) }
  } else {
    numbered-by-chapter(p, {
      opening(p, word: if p.role == "appendix" { words.appendix } else { none })
      walk(p.c)
      sections(p.places, p.id)
      [#metadata(none)#closes]
    })
  }
}

// ---- one topic alone, where it stands in the last layout of the whole
#let alone = doc.at("alone", default: none)
#let solo() = {
  set page(numbering: "1", columns: plan.columns)
  if alone.odd != calc.odd(1) { pagebreak(to: "even") }
  counter(page).update(alone.page)
  if alone.chapter != none { [#metadata(alone.chapter)#runs] }
  let p = doc.body.first()
  if p.role in ("part", "chapter", "appendix", "frontmatter", "backmatter") or p.level <= 1 { opening(p, word: if p.role == "appendix" { words.appendix } else if p.role == "part" { words.part } else { none }) } else {
    if alone.y > 0 { v(alone.y * 1pt) }
    section-heading(p, "")
  }
  walk(p.c)
}

// ---- cover
#let cover-line(id, body) = if body != "" { framed(styles.at(id), body) }
#if alone != none { solo() }
#if alone == none and plan.cover != "none" {
  let side = calc.min(30, plan.width * 0.15) * 1mm
  let banded = plan.cover == "band"
  let high = plan.height * 0.31 * 1mm
  let accent = rgb(colours.at("accent", default: "#12305f"))
  page(header: none, footer: none, numbering: none, background: none, margin: (x: side, top: plan.height * 0.115 * 1mm, bottom: plan.height * 0.1 * 1mm), {
    set par(justify: false)
    if banded { place(top + left, dx: -side, dy: -plan.height * 0.115 * 1mm, rect(width: plan.width * 1mm, height: high, fill: gradient.linear(accent, accent.lighten(18%), accent.lighten(72%), rgb("#ffffff"), angle: 90deg))) }
    if facts.series != "" { let s = styles.cover-series; framed(s, if banded { text(fill: white, facts.series) } else { facts.series }) }
    v(plan.height * (if banded { 0.29 } else { 0.2 }) * 1mm)
    cover-line("cover-title", facts.title)
    cover-line("cover-subtitle", facts.subtitle)
    v(4mm)
    line(length: 22mm, stroke: 1.4pt + seal)
    v(1fr)
    in-manner(styles.cover-facts, worded(styles.cover-facts, {
      (facts.number, facts.edition).filter(x => x != "").join(" · ")
      linebreak()
      facts.rights
    }))
    [#metadata(none)#closes]
  })
}
#if alone == none [
  #set page(numbering: plan.front)
  #if doc.front.len() > 0 { if plan.begins == "odd" { pagebreak(to: "odd", weak: true) } else { pagebreak(weak: true) }; counter(page).update(1) }
  #for p in doc.front { listing(p) }
]
#if alone == none [
  #set columns(gutter: plan.gutter * 1mm)
  #set page(columns: plan.columns, numbering: if plan.body == "chapter-page" { "1" } else { plan.body })
  #if plan.begins == "odd" { pagebreak(to: "odd", weak: true) } else { pagebreak(weak: true) }
  #counter(page).update(1)
  #for p in doc.body { chapter(p) }
  #for p in doc.back { listing(p) }
]

// ---- read back: where everything that can be led to stands
#context [#metadata(
  (query(metadata).filter(m => type(m.value) == dictionary and "at" in m.value) + query(heading)).filter(m => m.at("label", default: none) != none).map(m => {
    let l = m.location()
    (id: str(m.label), sheet: l.page(), shown: shown-page(l), y: l.position().y.pt())
  }),
)<pages>]
#if alone != none { context [#metadata(query(<from>).map(m => { let p = m.location().position(); (path: m.value, sheet: p.page, y: p.y.pt()) }))<places>] }
