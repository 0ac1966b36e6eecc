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
#let accent = rgb(doc.accent)
#let ink = rgb("#1d2326")
#let soft = rgb("#59636a")
#let rule-colour = rgb("#d9d4c8")
#let tint = rgb("#f3f0e8")
#let serif = "Source Serif 4"
#let sans = "Source Sans 3"
#let mono = "JetBrains Mono"

#set document(title: doc.title, description: doc.variant, date: auto)
#set text(font: serif, size: 10.5pt, fill: ink, lang: doc.language, region: doc.region, hyphenate: true, fallback: false)
#set par(justify: false, leading: 0.62em, spacing: 0.95em)
#set block(spacing: 0.95em)

// Lines.
#let anchor(node) = if "at" in node and node.at != "" { [#metadata(none)#label(node.at)] }

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
    else if i == "formula" { text(font: mono, size: 0.88em, hyphenate: false, inner()) }
    else if i == "superscript" { super(inner()) }
    else if i == "subscript" { sub(inner()) }
    else if i == "link" { link(node.href, text(fill: accent, inner())) }
    else if i == "reference" { link(label(node.to), text(fill: accent, inner())) }
    else if i == "page" { link(label(node.to), context {
      let at = locate(label(node.to))
      let numbers = at.page-numbering()
      [#node.before #numbering(if numbers == none { "1" } else { numbers }, ..counter(page).at(at))]
    }) }
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
  if caption.number != "" { text(fill: accent, weight: 600, caption.number + " ") }
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

#let admonition-colours = (
  note: accent, tip: accent, important: accent,
  notice: rgb("#2457a0"), caution: rgb("#8a6a00"), warning: rgb("#a84d00"), danger: rgb("#b3261e"),
)

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

// Blocks.
#let write(nodes) = nodes.map(node => {
  let b = node.b
  if b == "paragraph" { par({ anchor(node); inlines(node.c, write) }) }
  else if b == "heading" { [#heading(level: node.level, {
    if node.number != "" { text(fill: accent, node.number); " " }
    inlines(node.title, write)
  })#if node.at != "" { label(node.at) }] }
  else if b == "code" { anchor(node); raw(node.text, block: true, lang: if node.language == "" { none } else { lower(node.language) }) }
  else if b == "lines" { anchor(node); block(width: 100%, fill: tint, inset: 7pt, text(font: mono, size: 0.85em, hyphenate: false, inlines(node.c, write))) }
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
    let cell-of(cell) = table.cell(
      x: cell.x,
      y: cell.y,
      colspan: cell.columns,
      rowspan: cell.rows,
      align: if cell.align == "center" { center } else if cell.align == "right" { right } else { left },
      {
        anchor(cell)
        let body = tight(cell.c, write)
        if cell.isHead { text(font: sans, weight: 600, size: 0.95em, body) } else { body }
      },
    )
    let widths = node.columns.map(width => if width > 0 { width * 1fr } else if node.columns.any(each => each > 0) { 10fr } else { auto })
    let head = node.cells.filter(cell => cell.y < node.headRows).map(cell-of)
    let body = node.cells.filter(cell => cell.y >= node.headRows).map(cell-of)
    let grid = table(
      columns: widths,
      stroke: (x, y) => (bottom: if y + 1 == node.headRows { 1pt + ink } else { 0.5pt + rule-colour }),
      inset: (x: 5pt, y: 4.5pt),
      ..if head.len() > 0 { (table.header(..head),) } else { () },
      ..body,
    )
    anchor(node)
    captioned(node, "al-table", { set par(justify: false); set text(size: 0.95em); grid }, write, above: true)
  }
  else if b == "figure" { anchor(node); captioned(node, "al-figure", write(node.c), write) }
  else if b == "picture" { picture(node) }
  else if b == "admonition" { block(
    width: 100%, fill: tint, stroke: (left: 2.5pt + admonition-colours.at(node.kind, default: accent)),
    inset: (left: 10pt, right: 10pt, y: 8pt), breakable: true,
    {
      anchor(node)
      block(sticky: true, below: 0.5em, text(font: sans, size: 0.82em, weight: 700, tracking: 0.04em, upper(node.signal)))
      if node.title.len() > 0 { block(sticky: true, below: 0.5em, text(weight: 600, inlines(node.title, write))) }
      write(node.c)
    },
  ) }
  else if b == "quotation" {
    anchor(node)
    quote(block: true, attribution: if node.by == "" { none } else { node.by }, write(node.c))
  }
  else if b == "example" {
    anchor(node)
    if node.caption != none { block(sticky: true, below: 0.6em, text(weight: 600, caption-of(node.caption, write))) }
    write(node.c)
  }
  else if b == "group" { anchor(node); write(node.c) }
  else { panic("There is no kind of block “" + b + "”.") }
}).join()

// Looks of what the typesetter knows itself.
#show heading: set text(font: serif, weight: 600, hyphenate: false)
#show heading: set par(justify: false)
#show heading: set block(above: 1.6em, below: 0.8em, sticky: true)
#show heading.where(level: 1): set text(size: 20pt)
#show heading.where(level: 1): set block(below: 1.2em)
#show heading.where(level: 2): set text(size: 15pt)
#show heading.where(level: 3): set text(size: 12.5pt)
#show heading.where(level: 4): set text(size: 11pt)
// Lists before the text follow each other; everything else of the first level begins a page.
#show heading.where(level: 1): it => {
  if it.at("label", default: none) != <follows> { pagebreak(weak: true) }
  counter(footnote).update(0)
  it
}
#show raw: set text(font: mono, size: 0.85em / 0.8)
#show raw.where(block: true): it => block(width: 100%, fill: tint, inset: 7pt, it)
#show figure: set align(left)
#show figure: set block(above: 1.3em, below: 1.3em)
#show figure.caption: it => align(left, text(size: 0.92em, it.body))
#show figure.where(kind: "al-table"): set block(breakable: true)
#show figure.where(kind: "al-table"): set figure.caption(position: top)
#set footnote.entry(separator: line(length: 25%, stroke: 0.5pt + rule-colour))
#show footnote.entry: set text(size: 0.92em)

// The cover.
#page(numbering: none, header: none, footer: none, margin: (x: 25mm, top: 60mm, bottom: 30mm), {
  line(length: 30mm, stroke: 2.5pt + accent)
  v(6mm)
  par(justify: false, leading: 0.4em, text(size: 30pt, weight: 600, hyphenate: false, doc.title))
  v(3mm)
  text(font: sans, size: 14pt, fill: soft, doc.variant)
})

#let running = context {
  let chapters = query(selector(heading.where(level: 1)).before(here()))
  let starts = query(heading.where(level: 1)).any(each => each.location().page() == here().page())
  if chapters.len() > 0 and not starts {
    set text(font: sans, size: 8.5pt, fill: soft)
    let body = { show footnote: none; chapters.last().body }
    block(width: 100%, inset: (bottom: 3pt), stroke: (bottom: 0.5pt + rule-colour), body + h(1fr) + book)
  }
}
#let folio = context {
  set text(font: sans, size: 8.5pt, fill: soft)
  let numbers = here().page-numbering()
  [#variant #h(1fr) #if numbers != none { numbering(numbers, ..counter(page).get()) }]
}
#set page(paper: "a4", margin: (x: 25mm, top: 25mm, bottom: 25mm), header: running, footer: folio)

#let plain-heading(body) = heading(level: 1, body)

// Front matter, in Roman numerals.
#set page(numbering: "i")
#counter(page).update(1)
#{
  show footnote: none
  set outline.entry(fill: repeat(text(fill: rule-colour, "."), gap: 2.5pt))
  show outline.entry.where(level: 1): set text(weight: 600)
  show outline.entry.where(level: 1): set block(above: 0.9em)
  outline(title: words.contents, depth: doc.contentsDepth, indent: 1.2em)
}

#let lines-of(title, entries) = if entries.len() > 0 {
  [#plain-heading(title)<follows>]
  for entry in entries {
    block(spacing: 0.6em, link(label(entry.to), {
      entry.text
      box(width: 1fr, inset: (x: 3pt), repeat(text(fill: rule-colour, "."), gap: 2.5pt))
      context {
        let at = locate(label(entry.to))
        let numbers = at.page-numbering()
        numbering(if numbers == none { "1" } else { numbers }, ..counter(page).at(at))
      }
    }))
  }
}
#lines-of(words.figures, doc.figures)
#lines-of(words.tables, doc.tables)
#lines-of(words.examples, doc.examples)

#for page in doc.pages.filter(page => page.isFront) { write((page.heading,) + page.blocks) }

// The body.
#pagebreak(weak: true)
#set page(numbering: "1")
#counter(page).update(1)
#for page in doc.pages.filter(page => not page.isFront) { write((page.heading,) + page.blocks) }

#if doc.glossary.len() > 0 {
  plain-heading(words.glossary)
  for entry in doc.glossary {
    block(sticky: true, below: 0.4em, text(weight: 600, entry.term))
    pad(left: 1.4em, for definition in entry.definitions {
      write(definition.blocks)
      block(above: 0.4em, text(font: sans, size: 0.85em, link(label(definition.source.to), text(fill: accent, definition.source.text))))
    })
  }
}

// Pages in a row are a range.
#let ranges(places) = {
  let found = ()
  for place in places {
    let at = locate(label(place))
    let numbers = at.page-numbering()
    let here = (page: at.page(), text: numbering(if numbers == none { "1" } else { numbers }, ..counter(page).at(at)), to: place)
    if found.len() == 0 or here.page > found.last().last.page + 1 { found.push((first: here, last: here)) }
    else if here.page == found.last().last.page + 1 { found.last().last = here }
  }
  found.map(((first, last)) => {
    link(label(first.to), first.text)
    if last.page != first.page { "–"; link(label(last.to), last.text) }
  }).join(", ")
}
#let index-entries(entries, depth) = for entry in entries {
  block(spacing: 0.45em, inset: (left: depth * 1em), breakable: false, par(hanging-indent: 1em, justify: false, {
    entry.heading
    if entry.places.len() > 0 { ", "; context ranges(entry.places) }
    if entry.see.len() > 0 { ", "; emph(words.see); " "; entry.see.join("; ") }
    if entry.seeAlso.len() > 0 { ", "; emph(words.seeAlso); " "; entry.seeAlso.join("; ") }
  }))
  index-entries(entry.entries, depth + 1)
}
#if doc.index.len() > 0 {
  plain-heading(words.index)
  set text(size: 0.92em)
  columns(2, for group in doc.index {
    block(sticky: true, above: 1.2em, below: 0.6em, text(font: sans, weight: 700, fill: accent, if group.letter == "" { words.symbols } else { group.letter }))
    index-entries(group.entries, 0)
  })
}
`;
