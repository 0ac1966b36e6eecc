import { makeNode } from '@allomorph/core';
import { dropDraft, keepDraft, readDraft } from './drafts';

describe('Drafts', () => {
  beforeEach(() => localStorage.clear());

  it('are kept for each component until they are dropped', () => {
    const draft = { base: 3, title: 'T', body: makeNode('topic') };
    keepDraft('a', draft);
    expect(readDraft('a')).toEqual(draft);
    expect(readDraft('b')).toBeNull();
    dropDraft('a');
    expect(readDraft('a')).toBeNull();
  });

  it('are nothing where the store is broken or full', () => {
    localStorage.setItem('allomorph.draft.a', '{"base":');
    expect(readDraft('a')).toBeNull();
    spyOn(Storage.prototype, 'setItem').and.throwError('QuotaExceededError');
    expect(() => keepDraft('a', { base: 1, title: '', body: makeNode('topic') })).not.toThrow();
  });
});
