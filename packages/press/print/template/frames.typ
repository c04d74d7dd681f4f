// Blocks in the manner of a style, in the text or in the margin column.
#import "design.typ": *
#import "pages.typ": *

// What is not lines of text: what follows stands on the grid again.
#let to-grid(high) = {
  let over = calc.rem((high - text-size).pt(), grid-step.pt())
  if over < 0 { over += grid-step.pt() }
  if over > 0.01 and grid-step.pt() - over > 0.01 { v(grid-step - over * 1pt) }
}
#let snapped(body) = if not on-grid { body } else {
  layout(size => {
    body
    to-grid(measure(width: size.width, body).height)
  })
}
// Between blocks that follow each other from line to line.
#let grid-room = grid-step - text-size
#let has-column = plan.columnWidth > 0
// Only then marks of notes have to look around, which costs memory for each of them.
#let has-margin-blocks = has-column and styles.values().any(s => s.said.at("column", default: none) == "margin")
// Something in the margin column, level with what follows, wherever that is indented to.
#let in-margin(body, dy: 0pt) = context {
  let side = if calc.odd(here().page()) { plan.odd } else { plan.even }
  let is-left = side.column < side.text
  place(top + left, dx: side.column * 1mm + slug - here().position().x, dy: dy, box(width: plan.columnWidth * 1mm, align(if is-left { right } else { left }, body)))
}
// How far down on its page the margin column is taken at a place, by what stands in it in the text before.
#let taken-to(what, at) = {
  let end = 0pt
  for m in query(selector(what).before(here())) {
    let l = m.location().position()
    if l.page == at.page { end = calc.max(l.y, end) + m.value }
  }
  end
}
// Blocks in the margin column have room there: one that would begin before the last has ended begins under it. Marks of notes take room as well.
#let in-own-room(body, below) = context {
  let shown = box(width: plan.columnWidth * 1mm, body)
  let at = here().position()
  let end = calc.max(taken-to(<inmargin>, at), taken-to(<markinmargin>, at))
  [#metadata(measure(shown).height + below)<inmargin>]
  in-margin(shown, dy: calc.max(0pt, end - at.y))
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
  if place-of == "margin" and has-column { return block(width: 100%, height: 0pt, above: frame.above, below: 0pt, sticky: true, in-own-room(block(..frame, above: 0pt, below: 0pt, inner), calc.max(frame.below, 1.5mm))) }
  if sides.len() > 0 { shown = block(above: frame.above, below: frame.below, sticky: frame.sticky, breakable: frame.breakable, width: 100%, pad(..sides, block(..frame, above: 0pt, below: 0pt, inner))) }
  if place-of == "both" and has-column { block(above: frame.above, below: frame.below, width: 100%, over-both(block(..frame, above: 0pt, below: 0pt, inner))) } else { shown }
}
// On pages of their own that lie on their side: what is above on them is the inner edge of the page that is turned.
#let on-its-side(body) = page(
  flipped: true, columns: 1, background: { page-ground; [#metadata(none)<turned>] },
  margin: (left: plan.bottom * 1mm + slug, right: plan.top * 1mm + slug, top: plan.inner * 1mm + slug, bottom: plan.outer * 1mm + slug),
  body,
)
