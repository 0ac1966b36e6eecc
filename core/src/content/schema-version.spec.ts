import type { ComponentBody } from '../model/component.js';
import { makeNode, makeText, type ContentNode } from '../model/node.js';
import type { OutlineEntry, VariableValues } from '../model/publication.js';
import { parseCondition } from '../variation/condition-syntax.js';
import { checkBody } from './body.js';
import { bodyOfVersion, entriesOfVersion, keptOfVersion, schemaVersion, valuesOfVersion } from './schema-version.js';

const topic = (...content: readonly ContentNode[]): ContentNode =>
  makeNode('topic', null, [makeNode('title', null, [makeText('T')]), ...content]);
const line = (attrs: Readonly<Record<string, unknown>>): ContentNode =>
  makeNode('paragraph', attrs, [makeText('words')]);

describe('A stored body of an earlier schema version', () => {
  it('of today is left as it is', () => {
    const body = topic(line({ id: 'b1' }));
    expect(bodyOfVersion(body, schemaVersion)).toBe(body);
  });

  it('of version 1 keeps what is allowed and gets defaults for what is not', () => {
    const good = topic(line({ id: 'b1', when: 'platform = a' }));
    expect(bodyOfVersion(good, 1)).toEqual(good);
    const bad = topic(
      makeNode('admonition', { id: 'b1', kind: '"><script>' }, [line({ id: 5, strange: true })]),
      makeNode('table', { id: 'b2' }, [
        makeNode('table_grid', { columns: [{ width: 'half', when: 7 }, null] }, [
          makeNode('table_row', null, [makeNode('table_cell', { colspan: 1e9 }, [line({})])]),
        ]),
      ]),
    );
    expect(checkBody(bad).length).toBeGreaterThan(0);
    const mended = bodyOfVersion(bad, 1) as ContentNode;
    const text = JSON.stringify(mended);
    for (const gone of ['script', 'strange', '1000000000', 'half']) expect(text).not.toContain(gone);
    expect(text).toContain('words');
  });

  it('of version 1 never makes limited content content for all', () => {
    for (const when of [5, true, {}, ['platform = a'], 'platform = a\0', 'x'.repeat(5000)]) {
      const mended = bodyOfVersion(topic(line({ id: 'b1', when })), 1) as ContentNode;
      const kept = mended.content?.[1]?.attrs?.['when'];
      expect(typeof kept)
        .withContext(JSON.stringify(when))
        .toBe('string');
      expect(parseCondition(kept as string).ok && kept !== 'x'.repeat(4000))
        .withContext(String(kept))
        .toBeFalse();
    }
  });

  it('is mended in the values of variables', () => {
    const value = makeNode('phrase', null, [makeText('x', [{ type: 'condition', attrs: { when: 5 } }])]);
    const body: ComponentBody = { type: 'variable', default: value, rules: [{ when: null, language: null, value }] };
    const text = JSON.stringify(bodyOfVersion(body, 1));
    expect(text.match(/"when":"5\?"/g)?.length).toBe(2);
  });

  it('is mended in the values of variants and of outlines at any depth', () => {
    const value = makeNode('phrase', null, [makeText('x', [{ type: 'condition', attrs: { when: 5 } }])]);
    const mended = makeNode('phrase', null, [makeText('x', [{ type: 'condition', attrs: { when: '5?' } }])]);
    expect(valuesOfVersion({ name: value }, 1)).toEqual({ name: mended });
    const entryWith = (values: VariableValues): OutlineEntry => ({
      id: 'e1',
      title: 'One',
      entries: [{ id: 'e2', topic: 't', values }],
    });
    expect(entriesOfVersion([entryWith({ name: value })], 1)).toEqual([entryWith({ name: mended })]);
    const entries = [entryWith({ name: mended })];
    expect(entriesOfVersion(entries, schemaVersion)).toBe(entries);
    expect(() => valuesOfVersion({}, schemaVersion + 1)).toThrowError(RangeError);
    expect(() => entriesOfVersion([], schemaVersion + 1)).toThrowError(RangeError);
  });

  it('is mended in whatever holds it, as in drafts', () => {
    const of = (when: unknown) => {
      const value = makeNode('phrase', null, [makeText('x', [{ type: 'condition', attrs: { when } }])]);
      return {
        base: 3,
        title: 'topic',
        body: topic(line({ id: 'b1', when })),
        variable: { type: 'variable', default: value, rules: [{ when: null, language: null, value }] },
        parts: [{ values: { name: value }, none: null, on: true }],
      };
    };
    const mended = keptOfVersion(of(5), 1);
    expect(JSON.stringify(mended).match(/"when":"5\?"/g)?.length).toBe(4);
    expect(mended.body).toEqual(bodyOfVersion(topic(line({ id: 'b1', when: 5 })), 1) as typeof mended.body);
    expect(keptOfVersion(of('a = b'), 1)).toEqual(of('a = b'));
    const now = of('a = b');
    expect(keptOfVersion(now, schemaVersion)).toBe(now);
    expect(() => keptOfVersion({}, schemaVersion + 1)).toThrowError(RangeError);
  });

  it('of a later version is refused, with the versions that are known', () => {
    expect(() => bodyOfVersion(topic(), schemaVersion + 1)).toThrowError(RangeError, /knows the versions 1 to/);
    expect(() => bodyOfVersion(topic(), 0)).toThrowError(RangeError);
  });
});
