/**
 * The generated lists of a book (Typst 0.14): contents, lists of figures, tables and examples, glossary and index. A part of the
 * template of books, which defines what it uses.
 */
export const listsTemplate = String.raw`// Leads the eye to the number of a page: one drawn line of dots, where letters would be fifty to lay out in each line.
#let leader = line(length: 100%, stroke: (paint: rule-colour, thickness: 1pt, cap: "round", dash: (0pt, 4.5pt)))
#let indent-of-contents = 1.2em
#let above-chapter = 0.9em
// Before anything is laid out no heading is known. The contents as long as they will be keep everything behind them where it will
// lie: otherwise each page would be laid out once more, and all rounds remembered.
#let contents-foreseen() = {
  let letters(nodes) = nodes.map(node => if type(node) == str { node } else if node.i in ("footnote", "again") { "" } else { letters(node.at("c", default: ())) }).join()
  let line(level, body) = block(above: if level == 1 { above-chapter } else { auto }, inset: (left: indent-of-contents * (level - 1)), {
    set text(weight: 600) if level == 1
    body
  })
  let lines(blocks) = for each in blocks {
    if each.b == "heading" and each.level <= doc.contentsDepth { line(each.level, [#each.number #letters(each.title)]) }
    else if each.b in ("group", "stamped") { lines(each.c) }
  }
  for name in look.front + look.end { if doc.at(name, default: ()).len() > 0 { line(1, words.at(name)) } }
  for page in doc.pages { lines((page.heading,) + page.blocks) }
}
#let contents() = {
  show footnote: none
  set outline.entry(fill: leader)
  show outline.entry.where(level: 1): set text(weight: 600)
  show outline.entry.where(level: 1): set block(above: above-chapter)
  heading(level: 1, outlined: false, in-letters(words.contents))
  context if query(heading.where(outlined: true)).len() == 0 { contents-foreseen() }
  else { outline(title: none, depth: doc.contentsDepth, indent: indent-of-contents) }
}

#let lines-of(title, entries) = if entries.len() > 0 {
  [#plain-heading(title)<follows>]
  for entry in entries {
    block(spacing: 0.6em, lead(entry.to, {
      entry.text
      box(width: 1fr, inset: (x: 3pt), pdf.artifact(leader))
      page-of(entry.to)
    }))
  }
}
#let glossary() = if doc.glossary.len() > 0 {
  plain-heading(words.glossary)
  for entry in doc.glossary {
    block(sticky: true, below: 0.4em, text(weight: 600, entry.term))
    pad(left: 1.4em, for definition in entry.definitions {
      write(definition.blocks)
      block(above: 0.4em, text(font: sans, size: 0.85em, lead(definition.source.to, text(fill: accent, definition.source.text))))
    })
  }
}

// Pages in a row are a range.
#let ranges(places) = {
  let found = ()
  for place in places {
    let at = locate(label(place))
    let here = (page: at.page(), text: number-of-page(at), to: place)
    if found.len() == 0 or here.page > found.last().last.page + 1 { found.push((first: here, last: here)) }
    else if here.page == found.last().last.page + 1 { found.last().last = here }
  }
  found.map(((first, last)) => {
    lead(first.to, first.text)
    if last.page != first.page { "–"; lead(last.to, last.text) }
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
#let index() = if doc.index.len() > 0 {
  plain-heading(words.index)
  set text(size: 0.92em)
  columns(paper.indexColumns, for group in doc.index {
    block(sticky: true, above: 1.2em, below: 0.6em, text(font: sans, weight: 700, fill: accent, if group.letter == "" { words.symbols } else { group.letter }))
    index-entries(group.entries, 0)
  })
}

#let generated(name) = {
  if name == "contents" { contents() }
  else if name == "figures" { lines-of(words.figures, doc.figures) }
  else if name == "tables" { lines-of(words.tables, doc.tables) }
  else if name == "examples" { lines-of(words.examples, doc.examples) }
  else if name == "glossary" { glossary() }
  else if name == "index" { index() }
}
`;
