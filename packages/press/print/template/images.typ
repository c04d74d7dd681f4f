// Images, with signs on them.
#import "design.typ": *
#import "frames.typ": *
#import "lines.typ": *

#let sign-disc(sign) = {
  set text(..styles.caption-number.letters)
  box(width: 4.4mm, height: 4.4mm, fill: rgb(colours.at("accent", default: "#12305f")), radius: 50%, stroke: 0.6pt + white, align(center + horizon, text(fill: white, size: 7pt, sign)))
}
#let picture(b) = {
  if b.at("missing", default: false) {
    block(width: 100%, stroke: (paint: seal, thickness: 0.6pt, dash: "dashed"), inset: 4mm, text(size: 8.4pt, fill: seal, if b.alt == "" { "—" } else { b.alt }))
  } else {
    let most = plan.textWidth * 1mm
    let shown = image(b.src, alt: if b.alt == "" { none } else { b.alt }, ..image-size(b, most: most, default: (width: 100%)))
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
    let room = if on-grid { grid-room } else { 0.6em }
    block(width: 100%, above: room, below: room, snapped(if b.alt == "" { pdf.artifact(fitted) } else { fitted }))
  }
}
