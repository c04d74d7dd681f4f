// Notes and their marks.
#import "design.typ": *
#import "frames.typ": *
#import "lines.typ": *

// An equation on a line of its own, and its number at the end of the line.
#let equation-block(b, own) = {
  let body = block(width: 100%, above: 1em, below: 1em, breakable: false, pad(..((start-edge): 6mm), grid(
    columns: (1fr, auto), column-gutter: 4mm, align: horizon,
    walk-lines(b.c), if "num" in b { walk-lines(b.num) },
  )))
  if own == none { body } else { framed(styles.at(own), body) }
}
// The style of a note or hazard statement of a type.
#let note-style(b) = styles.at(b.at("s", default: if "note-" + b.kind in styles { "note-" + b.kind } else { "note" }))
// The colour of its name: that of its letters, else of its rules.
#let note-tint(s) = {
  let rules = s.said.at("rules", default: (:))
  if "fill" in s.said { rgb(s.said.fill) } else if "start" in rules { rgb(rules.start.fill) } else if "top" in rules { rgb(rules.top.fill) } else { ink }
}
#let note-block(b, walk) = {
  let s = note-style(b)
  let mark = marks.at(b.kind, default: marks.at("note", default: none))
  let tint = note-tint(s)
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
    if where == "margin column" and not has-margin-blocks { in-margin(pdf.artifact(picture), dy: dy) } else if where == "margin column" {
      // It stands beside its text, and under what is there already.
      let at = here().position()
      let down = calc.max(dy, taken-to(<inmargin>, at) - at.y)
      [#metadata(down + mark.size * 1pt + 1.5mm)<markinmargin>]
      in-margin(pdf.artifact(picture), dy: down)
    } else { place(top + start, dy: dy, pdf.artifact(picture)) }
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
  } else if where == "above" { block(below: if on-grid { grid-room } else { 1.2mm }, snapped(pdf.artifact(picture))); words-of } else if where == "margin column" { block(width: 100%, above: 0pt, below: 0pt, { sink; words-of }) } else { words-of }
  framed(s, content)
}

// A triangle with an exclamation mark: the safety alert symbol (ANSI Z535.4, 4).
#let alert(size, fill, on) = box(baseline: 0.12 * size, {
  polygon.regular(vertices: 3, size: size, fill: fill)
  place(center + bottom, dy: -0.12 * size, text(size: 0.72 * size, weight: "bold", fill: on, top-edge: "bounds", bottom-edge: "baseline")[!])
})
#let alerted = ("danger", "warning", "caution")
// A hazard statement: the signal word over symbols and messages, never parted by a page break.
#let hazard-block(b, walk) = {
  let s = note-style(b)
  let tint = note-tint(s)
  let word = text(size: 1.15 * text-size, fill: white, worded(styles.note-label, text(fill: white, b.word)))
  let signal = block(width: 100%, fill: tint, inset: (x: 2.4mm, y: 1.5mm), above: 0pt, below: 0pt, {
    if b.kind in alerted { pdf.artifact(alert(1.2 * text-size, white, tint)); h(0.5em) }
    word
  })
  let message(m) = { text(weight: "bold", walk(m.hazard)); walk(m.c) }
  let messages = b.messages.map(message).join(v(1.2mm))
  let body = if b.symbols.len() == 0 { messages } else {
    let symbols = { set image(width: 100%); walk(b.symbols) }
    grid(columns: (16mm, 1fr), column-gutter: 3mm, symbols, messages)
  }
  block(width: 100%, stroke: 0.8pt + tint, breakable: false, above: calc.max(8pt, s.frame.above), below: calc.max(8pt, s.frame.below), {
    signal
    block(width: 100%, inset: (x: 2.4mm, y: 2mm), above: 0pt, below: 0pt, snapped(body))
  })
}
