// The one template of printed manuals: walks /doc.json. No text of a person is ever read as markup.
// Content, numbers and order come from the document, how they look from its styles and page plan; only page numbers are looked up here.
#import "design.typ": *
#import "pages.typ": *
#import "frames.typ": *
#import "lines.typ": *
#import "blocks.typ": *
#import "places.typ": *
#import "cover.typ": *

#set document(title: facts.title, author: facts.authors, keywords: facts.keywords, date: if facts.day == "" { none } else { let (y, m, d) = facts.day.split("-"); datetime(year: int(y), month: int(m), day: int(d)) })
#set text(lang: doc.lang.split("-").first(), region: if doc.lang.contains("-") and doc.lang.split("-").last().len() == 2 { doc.lang.split("-").last() }, dir: if is-rtl { rtl } else { ltr }, overhang: false, ..edges, costs: (widow: 300%, orphan: 300%, runt: 200%), ..base.letters)
#set par(..base.lines, linebreaks: "optimized", spacing: calc.max(pt-of("paragraph", "above"), pt-of("paragraph", "below")))
#set text(..styles.paragraph.letters)
#set par(..styles.paragraph.lines)
#set heading(numbering: none)
#show heading: it => it.body
#show heading: set text(hyphenate: false, size: 1em, weight: "regular")
#show link: it => it
#show footnote.entry: it => in-manner(styles.footnote, it)
#set footnote.entry(separator: line(length: 22mm, stroke: 0.4pt + rgb(colours.at("hair", default: "#999999"))))

// Without a ground: as an image of all pages, that of a later page would cover those before it.
#set page(
  fill: none, width: plan.width * 1mm + 2 * slug, height: plan.height * 1mm + 2 * slug,
  margin: (top: plan.top * 1mm + slug, bottom: plan.bottom * 1mm + slug) + if is-mirrored { (inside: margin-inside + slug, outside: margin-outside + slug) } else { (left: plan.odd.text * 1mm + slug, right: (plan.width - plan.textWidth - plan.odd.text) * 1mm + slug) },
  header: page-header, footer: page-footer, header-ascent: calc.min(10, plan.top * 0.33) * 1mm, footer-descent: calc.min(10, plan.bottom * 0.38) * 1mm, background: page-ground,
)

// ---- one topic alone, where it stands in the last layout of the whole
#let alone = doc.at("alone", default: none)
#let solo() = {
  set page(numbering: "1", columns: plan.columns)
  if alone.odd != calc.odd(1) { pagebreak(to: "even") }
  counter(page).update(alone.page)
  if alone.chapter != none { [#metadata(alone.chapter)#runs] }
  let p = doc.body.first()
  if p.role in ("part", "chapter", "appendix", "frontmatter", "backmatter") or p.level <= 1 { opening(p, word: if p.role == "appendix" { words.appendix } else if p.role == "part" { words.part } else { none }) } else {
    if alone.y > 0 { context { let s = styles.at(heading-style(p)); v(calc.max(0pt, alone.y * 1pt - measure(text(..s.letters, top-edge: line-top, bottom-edge: "baseline")[H]).height)) } }
    section-heading(p, "")
  }
  walk(p.c, bare: true)
}

#if alone != none { solo() } else { cover(); title-page() }
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
#if alone == none { back-cover() }

// ---- read back: where everything that can be led to stands
#context [#metadata(
  (query(metadata).filter(m => type(m.value) == dictionary and "at" in m.value) + query(heading)).filter(m => m.at("label", default: none) != none).map(m => {
    let l = m.location()
    (id: str(m.label), sheet: l.page(), shown: shown-page(l), y: (l.position().y - slug).pt())
  }),
)<pages>]
#context [#metadata(query(<turned>).map(m => m.location().page()))<lying>]
#if doc.traced { context [#metadata(query(<from>).map(m => { let p = m.location().position(); (path: m.value, sheet: p.page, y: p.y.pt()) }))<places>] }
