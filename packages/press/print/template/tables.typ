// Tables.
#import "design.typ": *
#import "pages.typ": *
#import "frames.typ": *
#import "lines.typ": *

// `can-turn` where nothing is around the table: a page can only begin there.
#let table-block(b, walk, can-turn: false) = {
  let s = styles.at(b.at("s", default: "table"))
  let cols = b.cols.map(c => if "fr" in c { c.fr * 1fr } else { c.mm * 1mm })
  let align-of(c) = (if c.at("al", default: none) == "right" { right } else if c.at("al", default: none) == "center" { center } else if c.at("al", default: none) == "left" { left } else { start }) + (if c.at("va", default: none) == "middle" { horizon } else if c.at("va", default: none) == "bottom" { bottom } else { top })
  let (cells, head-cells) = (styles.table-cell, styles.table-head)
  // Turned words are as long as they are, so that a narrow column can have a long head.
  let body(c) = if c.at("turned", default: false) { snapped(rotate(if is-rtl { 90deg } else { -90deg }, reflow: true, { set par(justify: false); set text(hyphenate: false); box(walk(c.c)) })) } else { walk(c.c) }
  let frame-rule(side, usual) = if "frame" not in b { usual } else if not b.frame.at(side) { none } else if usual == none { 0.6pt + ink } else { usual }
  let beside = frame-rule("sides", none)
  // Rules that a cell asks for or refuses by itself.
  let rule-of(s, edge) = { let r = s.said.at("rules", default: (:)); if edge in r { stroke-of(r.at(edge)) } else { none } }
  let between = rule-of(cells, "top")
  let drawn = if between == none { 0.35pt + ink } else { between }
  let own-rules(c) = {
    let sides = (:)
    if "top" in c { sides.top = if c.top { drawn } else { none } }
    if c.x == 0 { sides.insert(start-edge, beside) } else if "start" in c { sides.insert(start-edge, if c.start { drawn } else { none }) }
    if c.x + c.cs == b.cols.len() { sides.insert(end-edge, beside) }
    sides
  }
  let manner(c) = if c.at("al", default: none) == "justify" { it => { set par(justify: true); it } } else { it => it }
  let cell(c, y) = table.cell(x: c.x, y: y, colspan: c.cs, rowspan: c.rs, align: align-of(c), stroke: own-rules(c), manner(c)(if c.head { in-manner(head-cells, body(c)) } else { in-manner(cells, body(c)) }))
  let has-caption = "cap" in b
  let first = if has-caption { 1 } else { 0 }
  let heads = b.head.len()
  let padding = cells.said.at("padding", default: 3) * 1pt
  let pad-x = padding * 1.5
  // On a baseline grid rows are whole steps high, so that pages can end after any of them.
  let pad-y = if on-grid { (whole-steps(2 * padding + text-size) - text-size) / 2 } else { padding }
  let (above, below) = (frame-rule("top", rule-of(s, "top")), frame-rule("bottom", rule-of(s, "bottom")))
  let under-head = rule-of(head-cells, "bottom")
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
    set par(spacing: if on-grid { grid-room } else { 2.5pt })
    in-manner(s, table(
      columns: cols,
      inset: (x, y) => (left: if x == 0 and beside == none { 0pt } else { pad-x }, right: pad-x, top: pad-y, bottom: pad-y),
      fill: (x, y) => if band != none and y >= body-row and calc.odd(y - body-row) { rgb(band) },
      stroke: (x, y) => (
        top: if y == top-row { above } else if y == body-row and heads > 0 { under-head } else if y > top-row and y != body-row { between } else { none },
        bottom: if y == last { below } else { none },
      ),
      ..if heads + first > 0 { (table.header(repeat: true, ..if has-caption { (title-cell,) }, ..b.head.enumerate().map(((y, r)) => r.map(c => cell(c, y + first))).flatten()),) },
      ..b.rows.enumerate().map(((y, r)) => r.map(c => cell(c, y + body-row))).flatten(),
    ))
    if on-grid { v(-grid-room) }
    if "notes" in b { block(above: if on-grid { grid-room } else { 0pt }, below: 0pt, snapped(for n in b.notes { in-manner(styles.footnote, block(above: 1mm, below: 0pt, grid(columns: (1em, 1fr), super(n.sign), walk(n.c)))) })) }
  })
  let stands = b.at("stands", default: s.said.at("column", default: none))
  if stands == "turned" and can-turn { on-its-side(shown) } else if stands == "turned" {
    // A page cannot begin in a list: there the table is turned where it stands, as far as it fits.
    layout(size => {
      let lying = block(width: (plan.height - plan.top - plan.bottom) * 0.9mm, shown)
      if measure(lying).height <= size.width { block(breakable: false, rotate(if is-rtl { 90deg } else { -90deg }, reflow: true, lying)) } else { shown }
    })
  } else if stands == "both" and has-column { over-both(shown) } else { shown }
}
