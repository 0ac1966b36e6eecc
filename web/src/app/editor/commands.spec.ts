import { checkBody, contentSchema, makeNode, makeText, Selector, tidyBody, type ContentNode } from '@allomorph/core';
import { undo } from 'prosemirror-history';
import { NodeSelection, TextSelection, type Command, type EditorState } from 'prosemirror-state';
import { insertBlock, insertInline, linkAt, moveBlock, putLink, removeBlock, structures } from './commands';
import { likelyTarget, limit, limitTargets, putStamp, type LimitTarget } from './limit-targets';
import { toggleHeaderRow, emptyTable } from './tables';
import { nodeType } from './schema-types';
import { after, at, vocabulary, editorOn } from './testing';
import { lensKey, outOnPage } from './lens-plugin';

const p = (text: string, attrs: Readonly<Record<string, unknown>> | null = null): ContentNode =>
  makeNode('paragraph', attrs, text === '' ? [] : [makeText(text)]);
const topic = (...flow: ContentNode[]): ContentNode =>
  makeNode('topic', null, [makeNode('title', null, [makeText('T')]), ...flow]);

const shape = (state: EditorState): string => {
  const draw = (node: ContentNode): string => {
    if (node.text !== undefined) return node.text;
    const inner = (node.content ?? []).map(draw).join(' ');
    return inner === '' ? node.type : `${node.type}[${inner}]`;
  };
  return (tidyBody(state.doc.toJSON() as ContentNode).content ?? []).slice(1).map(draw).join(' ');
};
const structure = (title: string): Command => {
  const found = structures.find((each) => each.title === title);
  if (!found) throw new Error(title);
  return found.command;
};

describe('Links', () => {
  const linked = (text: string, href: string): ContentNode => makeText(text, [{ type: 'link', attrs: { href } }]);
  const line = makeNode('paragraph', null, [makeText('see '), linked('here', 'https://a.example/'), makeText(' now')]);
  const inline = (state: EditorState): readonly string[] =>
    ((tidyBody(state.doc.toJSON() as ContentNode).content ?? [])[1]?.content ?? []).map(
      ({ text = '', marks }) => `${text}|${String(marks?.[0]?.attrs?.['href'] ?? '')}`,
    );

  it('are found around the cursor, changed as a whole and taken away', () => {
    const inside = editorOn(topic(line), 'he');
    expect(linkAt(inside)?.href).toBe('https://a.example/');
    expect(linkAt(editorOn(topic(line), 'now'))).toBeNull();
    expect(inline(after(inside, putLink('https://b.example/')))).toEqual(['see |', 'here|https://b.example/', ' now|']);
    expect(inline(after(inside, putLink(null)))).toEqual(['see here now|']);
  });

  it('go on selected words, or stand for themselves where there are none', () => {
    const words = at(editorOn(topic(p('one two'))), 'two', true);
    expect(inline(after(words, putLink('https://a.example/')))).toEqual(['one |', 'two|https://a.example/']);
    expect(inline(after(editorOn(topic(p('one ')), 'one '), putLink('https://a.example/')))).toEqual([
      'one |',
      'https://a.example/|https://a.example/',
    ]);
    expect(putLink(null)(editorOn(topic(p('one')), 'one'))).toBeFalse();
  });
});

describe('Inserting structure', () => {
  it('leaves valid content for everything that the menu offers', () => {
    for (const { title, command } of structures) {
      const state = editorOn(topic(p('text')), 'text');
      let result = state;
      command(state, (transaction) => (result = state.apply(transaction)));
      expect(checkBody(result.doc.toJSON() as ContentNode))
        .withContext(title)
        .toEqual([]);
    }
  });

  it('begins a section that takes what follows, up to the next one', () => {
    const section = makeNode('section', { id: 's' }, [makeNode('title', null, [makeText('S')]), p('in')]);
    const state = after(editorOn(topic(p('a'), p('b'), section), 'a'), structure('Section'));
    expect(shape(state)).toBe('paragraph[a] section[title paragraph[b]] section[title[S] paragraph[in]]');
  });

  it('puts blocks in place of an empty paragraph, else behind the block', () => {
    const placement = (): ReturnType<typeof emptyTable> => nodeType('placement').create({ component: 's' });
    expect(shape(after(editorOn(topic(p('a'), p('b')), 'a'), insertBlock(placement)))).toBe(
      'paragraph[a] placement paragraph[b]',
    );
    const empty = editorOn(topic(p('')));
    const inside = empty.apply(empty.tr.setSelection(TextSelection.create(empty.doc, 4)));
    const state = after(inside, insertBlock(placement));
    expect(shape(state)).toBe('placement');
    expect(state.selection).toBeInstanceOf(NodeSelection);
  });

  it('wraps blocks in admonitions, and inserts leaves with the marks around them', () => {
    expect(shape(after(editorOn(topic(p('hot')), 'hot'), structure('Warning')))).toBe('admonition[paragraph[hot]]');
    const state = after(editorOn(topic(p('name ')), 'name '), insertInline(nodeType('variable').create({ key: 'v' })));
    expect(shape(state)).toBe('paragraph[name  variable]');
  });

  it('makes a row a header row and back', () => {
    const table = emptyTable(2, 2).toJSON() as ContentNode;
    const state = editorOn(topic(table));
    const header = state.doc.resolve(0);
    let inCell = -1;
    state.doc.descendants((node, position) => {
      if (inCell < 0 && node.type.name === 'table_header') inCell = position + 2;
    });
    expect(header.depth).toBe(0);
    const turned = after(state.apply(state.tr.setSelection(TextSelection.create(state.doc, inCell))), toggleHeaderRow);
    expect(shape(turned)).not.toContain('table_header');
    expect(shape(after(turned, toggleHeaderRow))).toContain('table_header');
  });
});

describe('Limiting content', () => {
  it('offers the words that are selected and every block around them', () => {
    const list = makeNode('bullet_list', null, [makeNode('list_item', null, [p('some words')])]);
    const selected = limitTargets(at(editorOn(topic(list)), 'words', true));
    expect(selected.map((target) => ('type' in target ? target.type : target.kind))).toEqual([
      'topic',
      'bullet_list',
      'list_item',
      'paragraph',
      'words',
    ]);
    const cursor = limitTargets(editorOn(topic(list), 'words'));
    expect(cursor[likelyTarget(cursor)]).toEqual(jasmine.objectContaining({ type: 'list_item' }));
  });

  it('marks words and blocks, and takes the condition away again', () => {
    const words = at(editorOn(topic(p('some words here'))), 'words', true);
    const target = limitTargets(words).at(-1);
    const marked = after(words, limit(target as NonNullable<typeof target>, 'os is mac'));
    expect(JSON.stringify(marked.doc.toJSON())).toContain('"when":"os is mac"');
    const again = limitTargets(at(marked, 'wor')).at(-1);
    expect(again).toEqual(jasmine.objectContaining({ kind: 'words', when: 'os is mac' }));
    const freed = after(marked, limit(again as NonNullable<typeof again>, null));
    expect(JSON.stringify(freed.doc.toJSON())).not.toContain('os is mac');

    const block = editorOn(topic(p('x')), 'x');
    const paragraph = limitTargets(block).at(-1);
    const limited = after(block, limit(paragraph as NonNullable<typeof paragraph>, 'os is linux'));
    expect(limited.doc.child(1).attrs['when']).toBe('os is linux');
  });
});

describe('A condition on the whole component', () => {
  it('is offered wherever the cursor is, in the title alone, and can be undone', () => {
    const inText = editorOn(topic(p('one')), 'one');
    const [whole, ...blocks] = limitTargets(inText);
    expect(whole).toEqual({ kind: 'whole', type: 'topic', when: null });
    expect(blocks.length).toBe(1);
    const limited = after(inText, limit(whole as NonNullable<typeof whole>, 'os is mac'));
    expect(limitTargets(limited)[0]?.when).toBe('os is mac');
    expect((tidyBody(limited.doc.toJSON() as ContentNode).attrs ?? {})['when']).toBe('os is mac');
    expect(after(limited, undo).doc.attrs['when']).toBeNull();
    const inTitle = limitTargets(at(inText, 'T'));
    expect(inTitle[likelyTarget(inTitle)]?.kind).toBe('whole');
  });

  it('leaves the page out as one', () => {
    const state = editorOn({ ...topic(p('one')), attrs: { when: 'os is mac' } });
    const linux = new Selector(vocabulary, { axes: { os: { default: 'out', in: ['linux'] } } });
    const seen = state.apply(state.tr.setMeta(lensKey, { lens: { selector: linux, vocabulary, mode: 'ghost' } }));
    expect([outOnPage(state), outOnPage(seen)]).toEqual([0, 1]);
  });
});

describe('Stamps', () => {
  it('are put on blocks and words, and taken away again, whatever else limits them', () => {
    const block = editorOn(topic(p('x', { when: 'os is mac' })), 'x');
    const paragraph = limitTargets(block).at(-1) as LimitTarget;
    const stamped = after(block, putStamp(paragraph, 'trained'));
    expect(stamped.doc.child(1).attrs).toEqual(jasmine.objectContaining({ when: 'os is mac', stamp: 'trained' }));
    const again = limitTargets(stamped).at(-1) as LimitTarget;
    expect(again).toEqual(jasmine.objectContaining({ when: 'os is mac', stamp: 'trained' }));
    expect(after(stamped, putStamp(again, null)).doc.child(1).attrs['stamp']).toBeNull();

    const words = at(editorOn(topic(p('some words here'))), 'words', true);
    const marked = after(words, putStamp(limitTargets(words).at(-1) as LimitTarget, 'value'));
    expect(JSON.stringify(marked.doc.toJSON())).toContain('{"type":"stamp","attrs":{"stamp":"value"}}');
    const around = limitTargets(at(marked, 'wor')).at(-1) as LimitTarget;
    expect(around).toEqual(jasmine.objectContaining({ kind: 'words', when: null, stamp: 'value' }));
    expect(JSON.stringify(after(marked, putStamp(around, null)).doc.toJSON())).not.toContain('stamp":"value');
  });

  it('are borne by those of several blocks that can bear one', () => {
    const note = makeNode('footnote', null, [p('note')]);
    const state = editorOn(topic(p('one'), note, p('two')));
    const all = state.apply(state.tr.setSelection(TextSelection.create(state.doc, 4, state.doc.content.size - 1)));
    const blocks = limitTargets(all).at(-1) as LimitTarget;
    expect(blocks.kind).toBe('blocks');
    const stamped = after(all, putStamp(blocks, 'trained'));
    expect(stamped.doc.children.slice(1).map(({ attrs }) => attrs['stamp'] as unknown)).toEqual([
      'trained',
      undefined,
      'trained',
    ]);
    expect(limitTargets(stamped).at(-1)).toEqual(jasmine.objectContaining({ kind: 'blocks', stamp: 'trained' }));
  });
});

describe('Moving and removing blocks', () => {
  it('keeps the title first and a paragraph where one is needed', () => {
    const state = editorOn(topic(p('a'), p('b')), 'a');
    const target = limitTargets(state).at(-1);
    const position = target?.kind === 'block' ? target.position : -1;
    expect(shape(after(state, moveBlock(position, 1)))).toBe('paragraph[b] paragraph[a]');
    expect(moveBlock(position, -1)(state)).toBeFalse();
    expect(shape(after(state, removeBlock(position)))).toBe('paragraph[b]');
    const single = editorOn(topic(p('only')), 'only');
    expect(shape(after(single, removeBlock(3)))).toBe('paragraph');
  });
});

describe('The lens on the page', () => {
  const through = (...values: string[]): Selector =>
    new Selector(vocabulary, { axes: { os: { default: 'out', in: values } } });
  const look = (state: EditorState, selector: Selector | null): EditorState =>
    state.apply(state.tr.setMeta(lensKey, { lens: { selector, vocabulary, mode: 'ghost' } }));

  it('leaves out what bears a stamp by what the stamp asks for', () => {
    const word = (stamp: string): ContentNode => makeText(stamp, [{ type: 'stamp', attrs: { stamp } }]);
    const body = topic(
      p('a', { stamp: 'trained' }),
      p('b', { stamp: 'value' }),
      makeNode('paragraph', null, [word('trained'), word('value')]),
    );
    expect(outOnPage(look(editorOn(body), through('linux')))).toBe(0);
    expect(outOnPage(look(editorOn(body), through('mac')))).toBe(2);
  });

  it('counts what is out: blocks once with all that stands in them, and words', () => {
    const limitedWord = makeText('mac ', [{ type: 'condition', attrs: { when: 'os is mac' } }]);
    const body = topic(
      makeNode('quotation', { when: 'os is mac' }, [p('a', { when: 'os is mac' })]),
      makeNode('paragraph', null, [limitedWord, makeText('b')]),
      makeNode('choice', null, [
        makeNode('branch', { when: 'os is mac' }, [p('m')]),
        makeNode('branch', null, [p('o')]),
      ]),
    );
    const state = editorOn(body);
    expect(outOnPage(state)).toBe(0);
    expect(outOnPage(look(state, through('linux')))).toBe(3);
    expect(outOnPage(look(state, through('mac')))).toBe(1);
    expect(outOnPage(look(look(state, through('linux')), null))).toBe(0);
  });

  it('follows the text while it is written', () => {
    const state = look(editorOn(topic(p('x', { when: 'os is mac' })), 'x'), through('linux'));
    const target = limitTargets(state).at(-1);
    const freed = after(state, limit(target as NonNullable<typeof target>, null));
    expect(outOnPage(freed)).toBe(0);
  });

  it('takes over a body as the engine stores it', () => {
    const body = topic(p('x'));
    expect(tidyBody(contentSchema.nodeFromJSON(body).toJSON() as ContentNode)).toEqual(body);
  });
});
