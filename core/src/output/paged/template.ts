import { formulaTemplate } from './formula-template.js';
import { listsTemplate } from './lists-template.js';
import { placeScheme } from './place-name.js';

/**
 * The template of all books (Typst 0.14). It reads the publication from `document.json`; text of authors comes in strings
 * only, so that nothing in it is read as markup.
 */
export const template = String.raw`
#let doc = json("document.json")
#let words = doc.words
// What is remembered of a page names all that its parts close over: never the whole document.
#let book = doc.title
#let variant = doc.variant
#let look = doc.look
#let paper = look.paper
#let type-of = look.type
#let accent = rgb(look.colours.accent)
#let ink = rgb(look.colours.ink)
#let soft = rgb(look.colours.soft)
#let rule-colour = rgb(look.colours.line)
#let tint = rgb(look.colours.tint)
#let heading-colour = if look.colours.headings == "accent" { accent } else { ink }
#let number-colour = if look.numbersInAccent { accent } else { heading-colour }
#let serif = type-of.text
#let sans = type-of.labels
#let mono = type-of.code
#let head-families = type-of.headings
#let head-weight = type-of.weight
#let capitals = type-of.capitals
// From the foot of one line to the head of the next: capitals are about two thirds of the size high.
#let line-gap = (type-of.leading - 0.67) * 1em
#let stamps = look.stamps
#let admonition-style = look.admonition
#let admonition-colours = look.admonitionColours
#let signs = look.signs
#let table-rules = look.tableRules
#let table-stripes = look.tableStripes
#let table-head = look.tableHead
#let code-frame = look.code
#let bullets = look.bullets

#set document(title: doc.title, description: doc.variant, date: auto)
#set text(font: serif, size: type-of.size * 1pt, fill: ink, lang: doc.language, region: doc.region, hyphenate: type-of.hyphenate, fallback: false)
#set par(justify: type-of.justify, leading: line-gap, spacing: line-gap + 0.33em)
#set list(marker: bullets.map(sign => [#sign]))
#set block(spacing: line-gap + 0.33em)

#let math-font = "STIX Two Math"
${formulaTemplate}
// Leads to a place of the document. A link to a label would be laid out twice, and both times remembered: the label is known only
// once everything is laid out. So it is written as a link to an address, and led where the place has come to lie in the end.
#let lead(place, body) = link("${placeScheme}" + place, body)

// The number of the page of a place, as that page bears it.
#let number-of-page(at) = {
  let numbers = at.page-numbering()
  numbering(if numbers == none { "1" } else { numbers }, ..counter(page).at(at))
}
// Before anything is laid out no place is known: a number about as wide keeps what follows where it will lie.
#let page-of(place) = context {
  let found = query(label(place))
  if found.len() == 0 { "100" } else { number-of-page(found.first().location()) }
}

// Lines.
#let anchor(node) = if "at" in node and node.at != "" { [#metadata(none)#label(node.at)] }

// What bears a stamp: its letters, and in lines its frame.
#let look-of(stamp) = stamps.at(stamp, default: (frame: "none", colour: look.colours.ink, coloured: false, bold: false, italic: false, capitals: false))
#let in-stamp(look, body) = {
  set text(fill: rgb(look.colour)) if look.coloured
  set text(weight: 700) if look.bold
  set text(style: "italic") if look.italic
  if look.capitals { upper(body) } else { body }
}
#let stamp-word(look, word) = text(font: sans, size: 0.82em, weight: 700, fill: rgb(look.colour), word)
#let stamped-phrase(node, body) = {
  let look = look-of(node.stamp)
  let colour = rgb(look.colour)
  let shown = in-stamp(look, body)
  if node.word != "" { stamp-word(look, node.word); " " }
  if look.frame == "bar" { underline(stroke: 0.7pt + colour, offset: 2pt, shown) }
  else if look.frame == "box" { highlight(fill: none, stroke: 0.6pt + colour, radius: 1pt, extent: 1pt, shown) }
  else if look.frame == "tint" { highlight(fill: tint, extent: 1pt, shown) }
  else { shown }
}

#let inlines(nodes, blocks) = nodes.map(node => {
  if type(node) == str { node } else {
    let i = node.i
    let inner() = inlines(node.c, blocks)
    if i == "strong" { strong(inner()) }
    else if i == "emphasis" { emph(inner()) }
    else if i == "term" { text(weight: 600, inner()) }
    else if i == "cited" { emph(inner()) }
    else if i == "label" { text(font: sans, weight: 600, inner()) }
    else if i == "key" { box(stroke: 0.5pt + rule-colour, radius: 1.5pt, inset: (x: 2.5pt), outset: (y: 2.5pt), text(font: mono, size: 0.85em, inner())) }
    else if i == "code" { text(font: mono, size: 0.88em, hyphenate: false, style: if node.kind == "replaceable" { "italic" } else { "normal" }, inner()) }
    else if i == "formula" { draw-formula(node) }
    else if i == "superscript" { super(inner()) }
    else if i == "subscript" { sub(inner()) }
    else if i == "link" { link(node.href, text(fill: accent, inner())) }
    else if i == "reference" { lead(node.to, text(fill: accent, inner())) }
    else if i == "page" { lead(node.to, [#node.before #page-of(node.to)]) }
    else if i == "stamped" { stamped-phrase(node, inner()) }
    else if i == "break" { linebreak() }
    else if i == "missing" { text(fill: rgb("#8c1d13"), font: sans, size: 0.92em, node.text) }
    else if i == "image" { box(height: 1em, image(node.path, alt: if node.alt == "" { none } else { node.alt }, height: 1em)) }
    else if i == "footnote" {
      // The first paragraph stands beside the number.
      let first = node.c.at(0, default: none)
      let body = if first != none and first.b == "paragraph" {
        anchor(first)
        inlines(first.c, blocks)
        if node.c.len() > 1 { parbreak(); blocks(node.c.slice(1)) }
      } else { blocks(node.c) }
      [#footnote(body)#label(node.at)]
    }
    else if i == "again" { footnote(label(node.note)) }
    else { panic("There is no kind of line “" + i + "”.") }
  }
}).join()


#let caption-of(caption, blocks) = {
  if caption.number != "" { text(fill: if number-colour == accent { accent } else { ink }, weight: 600, caption.number + " ") }
  inlines(caption.title, blocks)
}

#let captioned(node, kind, body, blocks, above: false) = if node.caption == none { body } else {
  figure(
    body,
    kind: kind,
    supplement: none,
    numbering: none,
    outlined: false,
    placement: none,
    caption: figure.caption(position: if above { top } else { bottom }, caption-of(node.caption, blocks)),
  )
}

#let numerals = (
  "decimal": "1.", "lower-alpha": "a.", "upper-alpha": "A.", "lower-roman": "i.", "upper-roman": "I.",
)

#let picture(node) = layout(size => {
  let natural = if node.width > 0 { node.width * 0.75pt } else { size.width }
  let wanted = if node.share > 0 { size.width * node.share / 100 } else { natural }
  let alt = if node.alt == "" { none } else { node.alt }
  let shown = image(node.path, alt: alt, width: calc.min(wanted, size.width))
  if node.alt == "" { pdf.artifact(shown) } else { shown }
})

// One paragraph alone goes without its own block: it takes less room in memory, too.
#let tight(nodes, blocks) = {
  let only = nodes.at(0, default: none)
  if nodes.len() == 1 and only.b == "paragraph" and "at" not in only { inlines(only.c, blocks) } else { blocks(nodes) }
}

#let landscape = paper.width > paper.height
#let code-block(body) = block(
  width: 100%, inset: 7pt,
  fill: if code-frame == "frame" { none } else { tint },
  stroke: if code-frame == "frame" { 0.5pt + rule-colour } else if code-frame == "bar" { (left: 2pt + rule-colour) } else { none },
  body,
)

// Blocks.
#let write(nodes) = nodes.map(node => {
  let b = node.b
  if b == "paragraph" { par({ anchor(node); inlines(node.c, write) }) }
  else if b == "formula" { anchor(node); if node.elements == none { par(draw-formula(node)) } else { draw-formula(node, block: true) } }
  else if b == "heading" { [#heading(level: node.level, {
    let title() = { if node.number != "" { text(fill: number-colour, node.number); " " }; inlines(node.title, write) }
    if capitals.at(node.level - 1, default: false) { upper(title()) } else { title() }
  })#if node.at != "" { label(node.at) }] }
  else if b == "code" { anchor(node); raw(node.text, block: true, lang: if node.language == "" { none } else { lower(node.language) }) }
  else if b == "lines" { anchor(node); code-block(text(font: mono, size: 0.85em, hyphenate: false, inlines(node.c, write))) }
  else if b == "list" {
    anchor(node)
    let items = node.items.map(item => { anchor(item); tight(item.c, write) })
    if "start" not in node { list(..items) }
    else if node.numerals == "step" { enum(numbering: (..n) => text(weight: 700, fill: accent, numbering("1.1.", ..n)), full: true, ..items) }
    else { enum(start: node.start, numbering: numerals.at(node.numerals, default: "1."), ..items) }
  }
  else if b == "terms" {
    anchor(node)
    for item in node.items {
      block(sticky: true, below: 0.5em, { anchor(item); for term in item.terms { text(weight: 600, inlines(term, write)); linebreak() } })
      pad(left: 1.4em, write(item.c))
    }
  }
  else if b == "table" {
    let headed = node.headRows
    let cell-of(cell) = table.cell(
      x: cell.x,
      y: cell.y,
      colspan: cell.columns,
      rowspan: cell.rows,
      ..if "stamp" in cell and look-of(cell.stamp).frame == "tint" { (fill: tint) },
      align: if cell.align == "center" { center } else if cell.align == "right" { right } else { left },
      {
        anchor(cell)
        let body = tight(cell.c, write)
        if "stamp" in cell { body = in-stamp(look-of(cell.stamp), body) }
        if cell.isHead { text(font: sans, weight: 600, size: 0.95em, ..if cell.y < headed and table-head == "accent" { (fill: white) }, body) } else { body }
      },
    )
    let widths = node.columns.map(width => if width > 0 { width * 1fr } else if node.columns.any(each => each > 0) { 10fr } else { auto })
    let head = node.cells.filter(cell => cell.y < node.headRows).map(cell-of)
    let body = node.cells.filter(cell => cell.y >= node.headRows).map(cell-of)
    let head-rows = node.headRows
    let rules = node.at("lines", default: table-rules)
    let grid = table(
      columns: widths,
      stroke: (x, y) => {
        let line = if rules == "none" { none } else { 0.5pt + rule-colour }
        let bottom = if y + 1 == head-rows and table-head == "line" and ("lines" not in node or rules != "none") { 1pt + ink } else { line }
        if rules == "grid" { (bottom: bottom, top: line, left: line, right: line) } else { (bottom: bottom) }
      },
      fill: (x, y) => {
        if y < head-rows { if table-head == "accent" { accent } else if table-head == "tint" { tint } }
        else if table-stripes and calc.odd(y - head-rows) { tint }
      },
      inset: (x: 5pt, y: 4.5pt),
      ..if head.len() > 0 { (table.header(..head),) } else { () },
      ..body,
    )
    let whole = {
      anchor(node)
      captioned(node, "al-table", { set par(justify: false); set text(size: 0.95em); grid }, write, above: true)
    }
    if "turned" in node and not landscape { page(flipped: true, whole) } else { whole }
  }
  else if b == "figure" { anchor(node); captioned(node, "al-figure", write(node.c), write) }
  else if b == "picture" { picture(node) }
  else if b == "admonition" {
    let colour = rgb(admonition-colours.at(node.kind))
    let sign = signs.at(node.kind)
    let frame = if admonition-style == "bar" { (fill: tint, stroke: (left: 2.5pt + colour), inset: (left: 10pt, right: 10pt, y: 8pt)) }
      else if admonition-style == "box" { (stroke: 1pt + colour, radius: 2pt, inset: (x: 10pt, y: 8pt)) }
      else { (:) }
    block(width: 100%, breakable: true, ..frame, {
      anchor(node)
      block(sticky: true, below: 0.5em, {
        if sign != none { box(height: 1.15em, baseline: 0.26em, pdf.artifact(image(bytes(sign), format: "svg", height: 1.15em))); h(0.45em) }
        text(font: sans, size: 0.82em, weight: 700, tracking: 0.04em, fill: if admonition-style == "bar" { ink } else { colour }, upper(node.signal))
      })
      if node.title.len() > 0 { block(sticky: true, below: 0.5em, text(weight: 600, inlines(node.title, write))) }
      write(node.c)
    })
  }
  else if b == "quotation" {
    anchor(node)
    quote(block: true, attribution: if node.by == "" { none } else { node.by }, write(node.c))
  }
  else if b == "example" {
    anchor(node)
    if node.caption != none { block(sticky: true, below: 0.6em, text(weight: 600, caption-of(node.caption, write))) }
    write(node.c)
  }
  else if b == "stamped" {
    let look = look-of(node.stamp)
    let colour = rgb(look.colour)
    let frame = if look.frame == "bar" { (stroke: (left: 2pt + colour), inset: (left: 9pt)) }
      else if look.frame == "box" { (stroke: 1pt + colour, radius: 2pt, inset: (x: 9pt, y: 7pt)) }
      else if look.frame == "tint" { (fill: tint, inset: (x: 9pt, y: 7pt)) }
      else { (:) }
    block(width: 100%, breakable: true, ..frame, {
      if node.word != "" { block(sticky: true, below: 0.5em, stamp-word(look, node.word)) }
      in-stamp(look, write(node.c))
    })
  }
  else if b == "group" { anchor(node); write(node.c) }
  else { panic("There is no kind of block “" + b + "”.") }
}).join()

// Pages that are left empty on the way have neither head nor foot.
#let new-page(to: none) = {
  set page(header: none, footer: none)
  pagebreak(weak: true, to: to)
}

// Looks of what the typesetter knows itself.
#show heading: set text(font: head-families, weight: head-weight, fill: heading-colour, hyphenate: false)
#show heading: set par(justify: false)
#show heading: set block(above: 1.6em, below: 0.8em, sticky: true)
#show heading: set text(size: type-of.levels.at(3) * 1pt)
#show heading.where(level: 1): set text(size: type-of.levels.at(0) * 1pt)
#show heading.where(level: 1): set block(below: 1.2em)
#show heading.where(level: 2): set text(size: type-of.levels.at(1) * 1pt)
#show heading.where(level: 3): set text(size: type-of.levels.at(2) * 1pt)
// Lists before the text follow each other; everything else of the first level begins a page.
#show heading.where(level: 1): it => {
  if it.at("label", default: none) != <follows> { new-page(to: if paper.rightStart { "odd" }) }
  counter(footnote).update(0)
  it
}
#show math.equation: set text(font: math-font, fallback: false)
#show math.equation.where(block: true): set block(spacing: 1.1em)
#show raw: set text(font: mono, size: 0.85em / 0.8)
#show raw.where(block: true): it => code-block(it)
#show figure: set align(left)
#show figure: set block(above: 1.3em, below: 1.3em)
#show figure.caption: it => align(left, text(size: 0.92em, it.body))
#show figure.where(kind: "al-table"): set block(breakable: true)
#show figure.where(kind: "al-table"): set figure.caption(position: top)
#set footnote.entry(separator: line(length: 25%, stroke: 0.5pt + rule-colour))
#show footnote.entry: set text(size: 0.92em)

#set page(width: paper.width * 1mm, height: paper.height * 1mm)
#let sheet-margin = if paper.twoSided {
  (inside: paper.inner * 1mm, outside: paper.outer * 1mm, top: paper.top * 1mm, bottom: paper.bottom * 1mm)
} else {
  (left: paper.inner * 1mm, right: paper.outer * 1mm, top: paper.top * 1mm, bottom: paper.bottom * 1mm)
}

// The cover.
#let wide = paper.width * 1mm
#let high = paper.height * 1mm
#let scale-of-titles = calc.max(0.62, calc.min(1.2, calc.min(paper.width, paper.height) / 210))
#let titles(cover, fill: ink, under: soft, align-to: left) = align(align-to, {
  if cover.over != "" { text(font: sans, size: 11pt, weight: 600, fill: under, cover.over); v(4mm, weak: true) }
  par(justify: false, leading: 0.4em, text(font: head-families, size: 30pt * scale-of-titles, weight: head-weight, fill: fill, hyphenate: false, cover.title))
  if cover.under != "" { v(4mm, weak: true); text(font: sans, size: 14pt * scale-of-titles, fill: under, cover.under) }
})
#let picture-of(cover, height) = if cover.picture != none {
  let shown = image(cover.picture.path, alt: if cover.picture.alt == "" { none } else { cover.picture.alt }, height: height, fit: "contain")
  if cover.picture.alt == "" { pdf.artifact(shown) } else { shown }
}
#let foot-of(cover) = if cover.foot != "" { place(bottom + left, text(font: sans, size: 9pt, fill: soft, cover.foot)) }
#if look.cover != none {
  let cover = look.cover
  let side = calc.max(paper.inner, paper.outer) * 1mm
  let arrangement = cover.arrangement
  set page(numbering: none, header: none, footer: none)
  set par(justify: false)
  if arrangement == "middle" {
    page(margin: side, {
      v(1fr)
      titles(cover, align-to: center)
      v(8mm)
      align(center, picture-of(cover, high * 0.3))
      write(cover.blocks)
      v(2fr)
      foot-of(cover)
    })
  } else if arrangement == "band" {
    page(margin: (x: side, top: high * 0.42, bottom: side), background: place(top, rect(width: 100%, height: high * 0.36, fill: accent)), {
      place(top + left, dy: -high * 0.30, box(width: wide - 2 * side, titles(cover, fill: white, under: white.transparentize(15%))))
      picture-of(cover, high * 0.3)
      write(cover.blocks)
      foot-of(cover)
    })
  } else if arrangement == "foot" {
    page(margin: side, {
      picture-of(cover, high * 0.45)
      v(1fr)
      line(length: 100%, stroke: 1pt + ink)
      v(4mm, weak: true)
      titles(cover)
      v(4mm)
      write(cover.blocks)
      v(12mm)
      foot-of(cover)
    })
  } else {
    page(margin: (x: side, top: high * 0.2, bottom: side), {
      line(length: 30mm, stroke: 2.5pt + accent)
      v(6mm)
      titles(cover)
      v(8mm)
      picture-of(cover, high * 0.35)
      write(cover.blocks)
      foot-of(cover)
    })
  }
}

// Heads and feet.
#let chapters-here() = query(heading.where(level: 1)).filter(each => each.location().page() == here().page())
#let last-before(level) = query(selector(heading.where(level: level)).before(here())).at(-1, default: none)
// Chapters begin at the top of a page, before its head is made.
#let running-chapter() = {
  let starting = chapters-here()
  let found = if starting.len() > 0 { starting.last() } else { last-before(1) }
  if found != none { show footnote: none; found.body }
}
#let running-section() = {
  let (chapter, section) = (last-before(1), last-before(2))
  let is-of-it = section != none and chapters-here().len() == 0 and (chapter == none or section.location().page() >= chapter.location().page())
  if is-of-it { show footnote: none; section.body }
}
#let part-of(part) = {
  if type(part) == str { part }
  else if part.f == "chapter" { running-chapter() }
  else if part.f == "section" { running-section() }
  else if part.f == "page" {
    let numbers = here().page-numbering()
    if numbers != none { numbering(numbers, ..counter(page).get()) }
  }
  else if part.f == "pages" { str(counter(page).final().first()) }
}
#let line-of-page(parts) = {
  set text(font: sans, size: 0.81em, fill: soft, hyphenate: false)
  set par(justify: false)
  let (left-part, middle-part, right-part) = parts.map(each => each.map(part-of).join())
  if middle-part == none { grid(columns: (1fr, auto), column-gutter: 1em, left-part, align(right, right-part)) }
  else { grid(columns: (1fr, auto, 1fr), column-gutter: 1em, left-part, align(center, middle-part), align(right, right-part)) }
}
#let is-empty(parts) = parts.all(each => each.len() == 0)
#let heads = look.heads
#let two-sided = paper.twoSided
#let heads-here() = {
  let starts = heads.firstDiffers and chapters-here().len() > 0
  if starts { heads.first } else if two-sided and calc.even(here().page()) { heads.left } else { heads.right }
}
#let running = context {
  let parts = heads-here().head
  if not is-empty(parts) {
    block(width: 100%, inset: (bottom: 3pt), stroke: if heads.rule { (bottom: 0.5pt + rule-colour) } else { none }, line-of-page(parts))
  }
}
#let folio = context {
  let parts = heads-here().foot
  if not is-empty(parts) { line-of-page(parts) }
}
#set page(margin: sheet-margin, header: running, footer: folio)

#let in-letters(body) = if capitals.at(0) { upper(body) } else { body }
#let plain-heading(body) = heading(level: 1, in-letters(body))

// Front matter, in Roman numerals.
#set page(numbering: "i")
#if two-sided { new-page(to: "odd") }
#counter(page).update(1)
${listsTemplate}
#let topics(matter) = for page in doc.pages.filter(page => page.matter == matter) { write((page.heading,) + page.blocks) }
#let part(name, matter) = if name == "topics" { topics(matter) } else { generated(name) }

#for name in look.front { part(name, "front") }

// The body.
#new-page(to: if two-sided { "odd" })
#set page(numbering: "1")
#counter(page).update(1)
#topics("body")
#for name in look.end { part(name, "back") }

#if look.back != none {
  new-page(to: if two-sided { "even" })
  set page(numbering: none, header: none, footer: none)
  page({
    v(1fr)
    write(look.back.blocks)
    text(font: sans, size: 9pt, fill: soft, look.back.text)
  })
}

// Where everything has come to lie that something leads to.
#context {
  let told = (:)
  let places = ()
  for place in doc.ledTo {
    let at = locate(label(place))
    let (page, x, y) = at.position()
    if str(page) not in told { told.insert(str(page), words.page + " " + number-of-page(at)) }
    places.push((place: place, page: page, x: x.pt(), y: y.pt(), told: told.at(str(page))))
  }
  [#metadata(places)<places>]
}
`;
