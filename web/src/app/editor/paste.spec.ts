import { checkBody, type ContentNode } from '@allomorph/core';
import { EditorView } from 'prosemirror-view';
import { pasteHtml } from './clipboard';
import { browserClipboard, writerClipboard } from './clipboards';
import { editingState } from './editing-state';
import { vocabulary } from './testing';
import { notationOf, stateOf } from './testing-notation';

/** What of it is left out, and what comes of it, pasted into an empty paragraph or where the notation says. */
function pasted(
  html: string,
  into = 'p{|}',
): { readonly body: string; readonly json: ContentNode; readonly lost: readonly string[] } {
  const place = document.createElement('div');
  document.body.append(place);
  let lost: readonly string[] = [];
  const view = new EditorView(place, {
    state: stateOf(into, (doc) =>
      editingState(
        doc.toJSON() as ContentNode,
        { selector: null, vocabulary, mode: 'ghost' },
        { openInsertMenu: () => undefined, leftOut: (what) => (lost = what) },
      ),
    ),
  });
  pasteHtml(view, html);
  const { state } = view;
  view.destroy();
  place.remove();
  const json = state.doc.toJSON() as ContentNode;
  expect(checkBody(json)).toEqual([]);
  return { body: notationOf(state).replace('|', ''), json, lost };
}

describe('What is pasted', () => {
  it('from a web page has its headings as sections, below each other by their level', () => {
    const page =
      '<meta charset="utf-8"><div><header><h1>A</h1></header><p>a</p><div><h3>B</h3><p>b</p></div><h2>C</h2><p>c</p><h1>D</h1></div>';
    expect(pasted(page).body).toBe('s{h{A} p{a} s{h{B} p{b}} s{h{C} p{c}}} s{h{D}}');
  });

  it('has lists with their starts, definition lists, quotations and code with its language', () => {
    const page =
      '<ul><li>a<ul><li>b</li></ul></li></ul><ol start="3"><li>c</li></ol><dl><dt>d</dt><dt>e</dt><dd>f</dd><div><dt>g</dt><dd><p>h</p></dd></div></dl>' +
      '<blockquote>q</blockquote><pre class="language-sh"><code>a\nb<br>c\n</code></pre>';
    const { body, json } = pasted(page);
    expect(body).toBe(
      'ul{li{p{a} ul{li{p{b}}}}} ol{li{p{c}}} dl{d{dt{d} dt{e} dd{p{f}}} d{dt{g} dd{p{h}}}} q{p{q}} code{a¶b¶c}',
    );
    const text = JSON.stringify(json);
    expect(text).toContain('"start":3');
    expect(text).toContain('"language":"sh"');
  });

  it('has tables with their caption, head, merged and aligned cells', () => {
    const page =
      '<table><caption>T</caption><thead><tr><th>a<th>b</tr></thead><tr><td colspan="2" align="right">c</td></tr><tr><th>d</th><td style="text-align:center"><p>e</p><p>f</p></td></tr></table>';
    const { body, json } = pasted(page);
    expect(body).toBe('table{cap{T} grid{head{th{p{a}} th{p{b}}} row{td{p{c}}} row{th{p{d}} td{p{e} p{f}}}}}');
    const text = JSON.stringify(json);
    expect(text).toContain('"colspan":2');
    expect(text).toContain('"align":"right"');
    expect(text).toContain('"align":"center"');
  });

  it('has emphasis that stands in styles, and none that is emphasis by name only', () => {
    const page =
      '<b style="font-weight:normal" id="docs-internal-guid"><p><span style="font-weight:700">a</span> <span style="font-style:italic">b</span> <span style="vertical-align:super">c</span> <span style="font-family:Consolas">d</span> <span style="font-weight:400">e</span></p></b>';
    const marks = JSON.stringify(pasted(page).json.content?.[1]).match(/"type":"(\w+)"/g);
    expect(marks?.filter((each) => /strong|emphasis|superscript|code/.test(each))).toEqual([
      '"type":"strong"',
      '"type":"emphasis"',
      '"type":"superscript"',
      '"type":"code"',
    ]);
  });

  it('from a word processor has lists that are only drawn as such', () => {
    const point = (level: number, sign: string, words: string): string =>
      `<p class=MsoListParagraph style='text-indent:-18pt;mso-list:l0 level${level} lfo1'><![if !supportLists]><span style='mso-list:Ignore'>${sign}<span>&nbsp;</span></span><![endif]>${words}<o:p></o:p></p>`;
    const page = `<!--StartFragment--><h1>H</h1><p class=MsoNormal>x</p>${point(1, '1.', 'a')}${point(2, '·', 'b')}${point(1, '2.', 'c')}<p>y</p>${point(1, '·', 'd')}<!--EndFragment-->`;
    expect(pasted(page).body).toBe('s{h{H} p{x} ol{li{p{a} ul{li{p{b}}}} li{p{c}}} p{y} ul{li{p{d}}}}');
  });

  it('says what is left out, and keeps words that stood for it', () => {
    const page =
      '<p>a <img src="https://example.org/x.png" alt="A mast"> b</p><img src="data:image/png;base64,AAAA"><iframe src="https://example.org/"></iframe><script>alert(1)</script><form><input value="x"></form>';
    const { body, lost } = pasted(page);
    expect(body).toContain('p{a A mast b}');
    expect(lost).toEqual(['2 pictures', 'an embedded page', 'a form field']);
  });

  it('does no harm where a page imitates our attributes, or leads to what runs', () => {
    const page =
      '<p data-node="paragraph" data-when="5" data-id="{}">a</p><div data-node="placement" data-component="7">b</div><td colspan="1e9">c</td><a href="java\tscript:alert(1)">d</a><ol start="-5"><li>e</li></ol>';
    const { json } = pasted(page);
    const text = JSON.stringify(json);
    expect(text).not.toMatch(/placement|javascript|1000000000|"when":5|-5/);
    expect(text).toContain('"text":"cd"');
    // The same out of what claims to be copied here.
    expect(JSON.stringify(pasted(page.replace('<p ', '<p data-pm-slice="1 1 []" ')).json)).not.toMatch(
      /"when":5|"id":\{/,
    );
  });

  it('out of a text of LibreOffice keeps its structure, its emphasis and its links', () => {
    const { body, json, lost } = pasted(writerClipboard);
    expect(body).toBe(
      's{h{Mounting} p{Tighten the bolts to 12 N·m, and never more. Area: 4 m2.} s{h{Steps} ol{li{p{Put the bracket on.} ul{li{p{Mind the seal.}}}} li{p{Tighten the bolts.}}} p{See the support pages.} table{grid{head{th{p{Part}} th{p{Number}}} row{td{p{Bolt}} td{p{4}}}}}}} s{h{Care} p{Wipe it.}}',
    );
    const text = JSON.stringify(json);
    for (const mark of ['strong', 'emphasis', 'superscript', 'https://support.fennick.example/'])
      expect(text).toContain(mark);
    expect(lost).toEqual([]);
  });

  it('out of a page in a browser keeps what the page said, and none of its looks', () => {
    const { body, json, lost } = pasted(browserClipboard);
    expect(body).toBe(
      's{h{Rain gauge} p{Empty the funnel twice a year; see care.} s{h{Steps} ol{li{p{Lift it off.}} li{p{Turn it upside down.} ul{li{p{Shake it.}}}}} table{cap{Sizes} grid{head{th{p{Part}} th{p{mm}}} row{td{p{Funnel}} td{p{160}}} row{td{p{Bucket}} td{p{40}}} row{td{p{44}}}}} code{RAIN  ok   0.0¶TIP   12} dl{d{dt{Tip} dd{p{One turn of the bucket.}}}}}}',
    );
    const text = JSON.stringify(json);
    for (const kept of ['strong', 'emphasis', '"start":2', '"rowspan":2', 'https://station.fennick.example/care#gauge'])
      expect(text).withContext(kept).toContain(kept);
    expect(lost).toEqual([]);
  });

  it('goes into the cells of a table where it is one', () => {
    const cells = '<table><tr><td>1</td><td>2</td></tr><tr><td>3</td><td>4</td></tr></table>';
    expect(pasted(cells, 'table{grid{row{td{p{|}} td{p{x}}} row{td{p{y}} td{p{z}}}}}').body).toBe(
      'table{grid{row{td{p{1}} td{p{2}}} row{td{p{3}} td{p{4}}}}}',
    );
  });

  it('is words where only words may stand', () => {
    expect(pasted('<h1>A</h1><p>b</p>', 'phrase{x|}').body).toContain('A');
    expect(pasted('<p>a</p><p>b</p>', 's{h{x|} p{y}}').body).toContain('a');
  });
});
