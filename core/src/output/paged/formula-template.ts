/**
 * The part of the template that draws formulas: elements of MathML become elements of Typst's own mathematics. `draw-formula`
 * takes what stands in a document as a formula.
 */
export const formulaTemplate =
  String.raw`
// A length of MathML; what is given in other units has no width.
#let length-of(said, otherwise: 0em) = {
  let found = if said == none { none } else { said.match(regex("^(-?[0-9]*\.?[0-9]+)(em|ex|pt|px|cm|mm|in)$")) }
  if found == none { otherwise } else {
    let (number, unit) = found.captures
    let units = (em: 1em, ex: 0.45em, pt: 1pt, px: 0.75pt, cm: 1cm, mm: 1mm, "in": 1in)
    float(number) * units.at(unit)
  }
}
#let sign-of(said) = if said.clusters().len() == 1 and said.codepoints().len() == 1 { [#symbol(said)] } else { [#said] }
#let is-fence(element) = element.tag == "mo" and element.attributes.at("fence", default: "") == "true"
#let over-signs = ("‾": math.overline, "¯": math.overline, "⏞": math.overbrace, "⏠": math.overparen, "⎴": math.overbracket)
#let under-signs = ("‾": math.underline, "_": math.underline, "⏟": math.underbrace, "⏡": math.underparen, "⎵": math.underbracket)
#let accents = (
  "^": "\u{302}", "~": "\u{303}", "ˉ": "\u{304}", "¯": "\u{304}", "˘": "\u{306}", "˙": "\u{307}", "¨": "\u{308}",
  "ˇ": "\u{30c}", "´": "\u{301}", "ˊ": "\u{301}", "` +
  '`' +
  String.raw`": "\u{300}", "ˋ": "\u{300}", "˚": "\u{30a}", "→": "\u{20d7}",
  "←": "\u{20d6}", "↔": "\u{20e1}", "\u{20d7}": "\u{20d7}",
)

#let draw(element) = {
  let tag = element.tag
  let said = element.text
  let attributes = element.attributes
  let all() = [] + element.children.map(draw).join()
  let part(at) = [] + draw(element.children.at(at))
  // What stands over or under something: a brace, a line, an accent or a limit.
  let over(base, limit) = {
    let sign = limit.text
    if limit.tag == "mo" and sign in over-signs and attributes.at("accent", default: "") + limit.attributes.at("stretchy", default: "") != "" { (over-signs.at(sign))(base) }
    else if attributes.at("accent", default: "") == "true" and limit.tag == "mo" and sign in accents { math.accent(base, accents.at(sign)) }
    else { math.attach(math.limits(base), t: draw(limit)) }
  }
  let under(base, limit) = {
    let sign = limit.text
    if limit.tag == "mo" and sign in under-signs { (under-signs.at(sign))(base) }
    else { math.attach(math.limits(base), b: draw(limit)) }
  }
  if tag == "mi" {
    if said.codepoints().len() > 1 { math.op(said) }
    else if attributes.at("mathvariant", default: "") == "normal" { math.upright(sign-of(said)) }
    else { sign-of(said) }
  }
  else if tag == "mn" { [#said] }
  else if tag == "mo" {
    let size = attributes.at("minsize", default: none)
    if size != none { math.lr(size: length-of(size, otherwise: 1em), sign-of(said)) } else { sign-of(said) }
  }
  else if tag == "mtext" { if said.trim() == "" { h(0.16em * said.clusters().len()) } else { text(font: (..serif, math-font), said) } }
  else if tag == "mspace" { h(length-of(attributes.at("width", default: none))) }
  else if tag == "mfrac" {
    if attributes.at("linethickness", default: "").match(regex("^0")) != none { math.mat(delim: none, row-gap: 0.3em, (part(0),), (part(1),)) }
    else { math.frac(part(0), part(1)) }
  }
  else if tag == "msqrt" { math.sqrt(all()) }
  else if tag == "mroot" { math.root(part(1), part(0)) }
  else if tag == "msub" { math.attach(math.scripts(part(0)), b: part(1)) }
  else if tag == "msup" { math.attach(math.scripts(part(0)), t: part(1)) }
  else if tag == "msubsup" { math.attach(math.scripts(part(0)), b: part(1), t: part(2)) }
  else if tag == "mover" { over(part(0), element.children.at(1)) }
  else if tag == "munder" { under(part(0), element.children.at(1)) }
  else if tag == "munderover" { math.attach(math.limits(part(0)), b: part(1), t: part(2)) }
  else if tag == "mtable" {
    let sides = attributes.at("columnalign", default: "").split(" ")
    let gap = attributes.at("columnspacing", default: "1em").split(" ").first()
    let rows = element.children.map(row => row.children.enumerate().map(((at, cell)) => {
      let side = sides.at(calc.min(at, sides.len() - 1))
      let inside = draw(cell)
      if side == "left" {
        // A sign that begins a cell keeps its distance to what it follows.
        if gap.starts-with("0") { inside = h(0.25em) + inside }
        $&inside$.body
      } else if side == "right" { $inside&$.body } else { inside }
    }))
    if rows.len() > 0 { math.mat(delim: none, column-gap: length-of(gap, otherwise: 1em), row-gap: 0.5em, ..rows) }
  }
  else if tag == "mstyle" {
    let level = attributes.at("scriptlevel", default: "0")
    if level == "1" { math.script(all()) }
    else if level != "0" { math.sscript(all()) }
    else if attributes.at("displaystyle", default: "") == "true" { math.display(all()) }
    else if attributes.at("displaystyle", default: "") == "false" { math.inline(all()) }
    else { all() }
  }
  else if tag == "mphantom" { hide(all()) }
  else if tag == "menclose" {
    let notation = attributes.at("notation", default: "")
    if notation == "box" { box(stroke: 0.5pt, inset: 0.3em, baseline: 0.3em, math.equation(all())) } else { math.cancel(all()) }
  }
  else if element.children.len() > 0 and (is-fence(element.children.first()) or is-fence(element.children.last())) { math.lr(all()) }
  else { all() }
}

// A formula in a line or on its own; one that cannot be drawn stands as it was written.
#let draw-formula(node, block: false) = if node.elements == none { text(font: mono, size: 0.88em, hyphenate: false, node.source) } else {
  math.equation(block: block, alt: node.source, node.elements.map(draw).join())
}
`;
