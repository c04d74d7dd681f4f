// Blocks of text: one after the other, each in its style.
#import "design.typ": *
#import "pages.typ": *
#import "frames.typ": *
#import "lines.typ": *
#import "images.typ": *
#import "tables.typ": *
#import "notes.typ": *

// Blocks that only mark a place.
#let only-marks = ("at", "from", "bar", "gone")
// On a baseline grid items of a list are set apart by a line where one ends with more than words, or the next begins with a ground or rules.
#let parted(items, i) = {
  let ends(bs) = bs.len() > 0 and bs.last().t in ("table", "fig", "img", "note", "code")
  let begins(bs) = { let first = bs.find(b => b.t not in only-marks); first != none and first.t in ("note", "hazard", "code") }
  if on-grid and (ends(items.at(i)) or (i + 1 < items.len() and begins(items.at(i + 1)))) { v(grid-step) }
}
#let walk(bs, depth: 0, bare: false) = {
  let skip = 0
  for (i, b) in bs.enumerate() {
    if skip > 0 { skip -= 1; continue }
    let own = b.at("s", default: none)
    if b.t == "p" { if own == none and not frames-paragraphs { par(walk-lines(b.c)) } else { framed(styles.at(if own == none { "paragraph" } else { own }), walk-lines(b.c)) } } else if b.t == "lead" { framed(styles.at(if own == none { "lead" } else { own }), walk-lines(b.c)) } else if b.t == "label" { framed(styles.label, walk-lines(b.c), sticky: true) } else if b.t == "h" {
      let s = styles.at(if own == none { "block-heading" } else { own })
      let body = { for id in b.at { at(id) }; walk-lines(b.c) }
      // What follows, past what only marks a place.
      let after = bs.slice(i + 1)
      let to = after.position(x => x.t not in only-marks)
      if s.said.at("column", default: none) == "margin" and has-column and to != none {
        skip = to + 1
        // Beside what follows, first line by first line.
        block(width: 100%, above: s.frame.above, below: 0pt, {
          context {
            let own = measure(text(top-edge: line-top, bottom-edge: "baseline")[H]).height
            let named = measure(text(..s.letters, top-edge: line-top, bottom-edge: "baseline")[H]).height
            in-margin(dy: own - named, in-manner(s, with-words(s.said, body)))
          }
          walk(after.slice(0, to + 1), depth: depth)
        })
      } else { framed(s, body, sticky: true) }
    } else if b.t == "at" { at(b.id) } else if b.t == "bar" { bar-mark(b.on) } else if b.t == "gone" { gone-mark } else if b.t == "from" { [#metadata(b.path)<from>] } else if b.t == "ul" {
      let id = if own != none { own } else if depth > 0 { "bullet-list-2" } else { "bullet-list" }
      let s = styles.at(id)
      let sign = s.said.at("mark", default: "•")
      framed(s, list(marker: if sign == "none" { [] } else { worded(styles.list-mark, sign) }, indent: 0pt, body-indent: s.said.at("tab", default: 8) * 1pt, spacing: s.said.at("between", default: 4) * 1pt, ..b.items.enumerate().map(((i, item)) => { walk(item, depth: depth + 1); parted(b.items, i) })))
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
        ..b.items.enumerate().map(((i, item)) => enum.item({ walk(item, depth: depth + 1); parted(b.items, i) })),
      ))
    } else if b.t == "dl" {
      let s = styles.at(if own == none { "term-list" } else { own })
      let indent = s.said.at("start", default: 0) * 1pt
      let sides = (:)
      sides.insert(start-edge, indent)
      block(above: s.frame.above, below: s.frame.below, width: 100%, for i in b.items {
        block(above: pt-of("term-name", "above"), below: pt-of("term-name", "below"), sticky: true, for d in i.dt { worded(styles.term-name, walk-lines(d)); h(0.6em) })
        pad(..sides, in-manner(s, if i.at("head", default: false) { text(weight: "bold", walk(i.dd, depth: depth)) } else { walk(i.dd, depth: depth) }))
      })
    } else if b.t == "note" { note-block(b, walk) } else if b.t == "equation" { equation-block(b, own) } else if b.t == "hazard" { hazard-block(b, walk) } else if b.t == "code" { framed(styles.at(if own == none { "code-block" } else { own }), keep-lines(b.c)) } else if b.t == "lines" { framed(styles.at(if own == none { "lines" } else { own }), keep-lines(b.c)) } else if b.t == "quote" { framed(styles.at(if own == none { "quote" } else { own }), walk(b.c)) } else if b.t == "img" { picture(b) } else if b.t == "legend" {
      in-manner(styles.figure-title, block(above: if on-grid { grid-room } else { 1.6mm }, below: if on-grid { grid-room } else { 1.6mm }, snapped(grid(columns: (6mm, 1fr), row-gutter: 1.2mm, align: (start + horizon, start + horizon), ..b.items.map(i => (sign-disc(i.sign), walk-lines(i.c))).flatten()))))
    } else if b.t == "group" { if own == none { walk(b.c, depth: depth) } else { framed(styles.at(own), walk(b.c, depth: depth)) } } else if b.t == "lang" { { set text(lang: b.lang.split("-").first(), dir: if b.dir == "rtl" { rtl } else { ltr }); walk(b.c, depth: depth) } } else if b.t == "mark" {
      block(
        width: 100%, fill: if "bg" in b { rgb(b.bg) }, outset: (x: 1.2mm, y: 0.8mm),
        lettered(b, walk(b.c, depth: depth)),
      )
    } else if b.t == "fig" {
      let s = styles.at(if own == none { "figure" } else { own })
      framed(s, {
        for id in b.at { at(id) }
        walk(b.c)
        if "cap" in b { framed(styles.figure-title, caption(words.figure, b)) }
      })
    } else if b.t == "table" { table-block(b, walk, can-turn: bare) } else { panic("block " + b.t) }
  }
}
