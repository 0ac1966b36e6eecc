import type { AssembledNode } from '../model/node.js';
import { digestsOf, type EntryDigests } from './content-digest.js';

const placed = (attrs: Readonly<Record<string, unknown>>, text = 'words'): AssembledNode => ({
  type: 'placed',
  attrs: { placement: 'b1', component: 's', revision: 1, ...attrs },
  content: [{ type: 'paragraph', attrs: { id: 'b2' }, content: [{ type: 'text', text }] }],
});
const digests = (block: AssembledNode): EntryDigests => digestsOf({ title: [], blocks: [block], role: 'auto' });

describe('The digests of what an entry shows', () => {
  const before = digests(placed({}));

  it('tell what formats can show besides the words: the placement, from which ids are made', () => {
    const moved = digests(placed({ placement: 'b9' }));
    expect(moved.exact).not.toBe(before.exact);
    expect(moved.words).toBe(before.words);
  });

  it('tell other words in both', () => {
    const other = digests(placed({}, 'other words'));
    expect(other.exact).not.toBe(before.exact);
    expect(other.words).not.toBe(before.words);
  });

  it('do not tell what no format shows: which revision was placed, under which condition', () => {
    expect(digests(placed({ revision: 2, when: 'os is mac' }))).toEqual(before);
  });

  it('tell the role of the entry', () => {
    const front = digestsOf({ title: [], blocks: [placed({})], role: 'front' });
    expect(front.exact).not.toBe(before.exact);
  });
});
