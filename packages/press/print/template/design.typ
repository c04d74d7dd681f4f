// The document, and what each of its styles says as arguments of text, paragraphs and blocks.
#let doc = json("/doc.json")
#let words = doc.words
#let facts = doc.facts
#let plan = doc.design.plan
#let is-rtl = doc.dir == "rtl"
// A function that names the document is remembered with all of it, and made anew with every key: parts of it have names of their own.
#let has-bars = doc.barred
#let marks = doc.design.marks

#let measure-of(m) = if "pt" in m { m.pt * 1pt } else { m.em * 1em }
#let start-edge = if is-rtl { "right" } else { "left" }
#let end-edge = if is-rtl { "left" } else { "right" }
// Each sign is taken from the first face that has it: what no Latin face has comes from those of its script.
#let other-scripts = ("Noto Sans JP", "Noto Naskh Arabic", "Noto Sans Hebrew")
#let stroke-of(rule) = rule.pt * 1pt + rgb(rule.fill)
// A line is as high as its letters are large, a fifth of it below the baseline: line heights are then what they say, as on a screen.
// On a baseline grid every line is as high as the letters of the text.
#let on-grid = plan.baseline > 0
#let grid-step = plan.baseline * 1pt
#let whole-steps(length) = calc.max(1, calc.round(length / grid-step)) * grid-step
#let own-edges = (top-edge: 0.8em, bottom-edge: -0.2em)
#let text-size = measure-of(doc.design.styles.text.at("size", default: (pt: 10)))
#let edges = if on-grid { (top-edge: 0.8 * text-size, bottom-edge: -0.2 * text-size) } else { own-edges }
#let line-top = edges.top-edge
#let prepared(s) = {
  let letters = (:)
  if "font" in s { letters.font = (s.font, "Source Serif 4", "Source Sans 3") + other-scripts }
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
  if "leading" in s { lines.leading = measure-of(s.leading) }
  if s.at("ownLines", default: false) { letters += own-edges }
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
  // On a grid a ground reaches out over the room around it: what is inside would move the lines.
  let (padded, reaching) = ((top: inside("top"), bottom: inside("bottom")), (:))
  if on-grid { (padded, reaching) = (reaching, padded) }
  let inset = padded
  inset.insert(start-edge, inside("start"))
  inset.insert(end-edge, inside("end"))
  let frame = (width: 100%, above: s.at("above", default: 0) * 1pt, below: s.at("below", default: 0) * 1pt, stroke: stroke, inset: inset, outset: reaching, sticky: s.at("keepNext", default: false), breakable: not s.at("keepTogether", default: false))
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

#let colours = doc.design.colours
#let ink = rgb(colours.at("ink", default: "#000000"))
#let seal = rgb(colours.at("danger", default: "#b00000"))
#let base = styles.text

// Paragraphs are set as they come, unless their style says more than letters and lines.
#let frames-paragraphs = ("rules", "ground", "start", "end", "prefix", "suffix", "case", "line", "column", "columns", "keepNext", "keepTogether").any(name => name in styles.paragraph.said)
