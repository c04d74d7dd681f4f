// Lines of text.
#import "design.typ": *
#import "pages.typ": *

#let page-of(id) = context shown-page(locate(label(id)))
// “on page 12”; “on the next page” where that is so; nothing where it is this page.
#let on-page(id) = context {
  let target = locate(label(id))
  let away = target.page() - here().page()
  if away == 1 { [ #words.onNextPage] } else if away != 0 { let (before, after) = words.onPage.split("{n}"); [ #before.replace(" ", "\u{a0}")#shown-page(target)#after] }
}
// As large as it is wanted, but not wider than there is room.
#let image-size(x, most: none, default: (:)) = {
  if "w" not in x and "h" not in x { return default }
  let w = if "w" in x { float(x.w) * 1mm }
  let h = if "h" in x { float(x.h) * 1mm }
  let share = if w != none and most != none and w > most { most / w } else { 1 }
  let size = (:)
  if w != none { size.width = w * share }
  if h != none { size.height = h * share }
  if w != none and h != none { size.fit = "stretch" }
  size
}
// A formula in MathML, built from its parts.
#let formula(x) = {
  let at(key) = if key in x { formula(x.at(key)) }
  if x.m == "i" { if x.v.clusters().len() == 1 { math.italic(x.v) } else { math.op(x.v) } } else if x.m == "n" or x.m == "t" { text(x.v) } else if x.m == "o" { if x.v.clusters().len() == 1 { [#symbol(x.v)] } else { math.op(x.v) } } else if x.m == "row" {
    let c = x.c.map(formula).join()
    if x.at("lr", default: false) { math.lr(c) } else { c }
  } else if x.m == "frac" { math.frac(..x.c.map(formula)) } else if x.m == "root" { if x.c.len() == 1 { math.sqrt(formula(x.c.at(0))) } else { math.root(formula(x.c.at(1)), formula(x.c.at(0))) } } else if x.m == "at" { math.attach(at("base"), b: at("b"), t: at("t")) } else if x.m == "limits" { math.attach(math.limits(at("base")), b: at("b"), t: at("t")) } else if x.m == "accent" { if x.v in ("¯", "‾") { math.overline(at("base")) } else { math.accent(at("base"), x.v) } } else if x.m == "mat" { math.mat(delim: none, ..x.rows.map(r => r.map(formula))) } else { h(0.4em) }
}
// Letters as a lens marks them.
#let lettered(x, body) = {
  let has(manner) = manner in x.at("ls", default: ())
  if "fg" in x { body = text(fill: rgb(x.fg), body) }
  if has("bold") { body = text(weight: "bold", body) }
  if has("italics") { body = text(style: "italic", body) }
  // Letters in a tagged file have one line at most (ISO 32000-2, 14.8.5.4.4).
  if has("underline") { body = underline(body) } else if has("double-underline") { body = underline(stroke: 1.4pt, body) } else if has("line-through") { body = strike(body) } else if has("overline") { body = overline(body) }
  body
}
#let manners = (b: "bold", i: "italic", ui: "control", code: "code", q: "quoted")
#let walk-lines(xs) = xs.map(x => {
  if type(x) == str { x } else if x.t in manners {
    let inner = walk-lines(x.c)
    if x.t == "q" { inner = quote(inner) }
    inline-styled(x.at("s", default: manners.at(x.t)), inner)
  } else if x.t == "s" { inline-styled(x.s, walk-lines(x.c)) } else if x.t == "u" { underline(walk-lines(x.c)) } else if x.t == "sup" { super(walk-lines(x.c)) } else if x.t == "sub" { sub(walk-lines(x.c)) } else if x.t == "strike" { strike(walk-lines(x.c)) } else if x.t == "at" { at(x.id) } else if x.t == "bar" { bar-mark(false) } else if x.t == "gone" { gone-mark } else if x.t == "url" { link(x.href, inline-styled("link", walk-lines(x.c))) } else if x.t == "ref" {
    if x.to == "" { walk-lines(x.c) } else {
      link(label(x.to), inline-styled("link", if x.c.len() == 0 { let (before, after) = words.page.split("{n}"); [#before.replace(" ", "\u{a0}")#page-of(x.to)#after] } else { walk-lines(x.c); if x.page { on-page(x.to) } }))
    }
  } else if x.t == "lang" { text(lang: x.lang.split("-").first(), dir: if x.dir == "rtl" { rtl } else { ltr }, walk-lines(x.c)) } else if x.t == "fn" or x.t == "fnref" {
    // A sign of its own takes no number.
    let manner = if "sign" in x { (numbering: _ => x.sign) } else { (:) }
    let note = if x.t == "fnref" { footnote(label("note:" + x.id), ..manner) } else { footnote(x.c.map(b => walk-lines(b.c)).join(parbreak()), ..manner) }
    if x.t == "fn" and "id" in x { [#note#label("note:" + x.id)] } else { note }
    if x.t == "fn" and "sign" in x { counter(footnote).update(n => calc.max(0, n - 1)) }
  } else if x.t == "img" {
    box(baseline: 20%, image(x.src, alt: x.alt, ..image-size(x, default: (height: 1.1em))))
  } else if x.t == "math" {
    math.equation(alt: x.alt, if x.block { math.display(formula(x.c)) } else { formula(x.c) })
  } else if x.t == "mark" {
    let body = lettered(x, walk-lines(x.c))
    if "bg" in x { highlight(fill: rgb(x.bg), body) } else { body }
  } else { panic("inline " + x.t) }
}).join()

#let keep-lines(xs) = {
  // Line ends and spaces of preformatted text are kept. A single space becomes a no-break space
  // only at the start of a line.
  let indented(l) = l.replace(regex("^ +"), m => "\u{a0}" * m.text.len())
  let keep(at, x) = if type(x) == str {
    let lines = x.split("\n").map(l => l.replace("\t", "    ")).enumerate()
    lines.map(((n, l)) => (if n > 0 or at == 0 { indented(l) } else { l }).replace("  ", "\u{a0} ")).join(linebreak())
  } else { walk-lines((x,)) }
  xs.enumerate().map(((at, x)) => keep(at, x)).join()
}
#let number-of(id, n) = {
  let form = styles.at(id).said.at("numbers", default: "1")
  if form == "01" { if n < 10 { "0" + str(n) } else { str(n) } } else { numbering(form, n) }
}
#let caption(word, b) = {
  if "num" in b { inline-styled("caption-number", word + " " + b.num); h(0.8em) }
  walk-lines(b.cap)
}
