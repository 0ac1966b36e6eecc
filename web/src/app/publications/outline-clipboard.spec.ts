import type { OutlineEntry } from '@allomorph/core';
import { entriesOnClipboard, headingsOf, putOnClipboard } from './outline-clipboard';

const shape = (entries: readonly OutlineEntry[]): string =>
  entries
    .map((each) => (each.title ?? each.topic ?? '') + (each.entries?.length ? `(${shape(each.entries)})` : ''))
    .join(' ');

describe('The clipboard of outlines', () => {
  it('carries entries as they are, and their titles for other programs', () => {
    const entries = [{ id: 'e1', topic: 't', when: 'a is b', entries: [{ id: 'e2', title: 'Heading' }] }];
    const clipboard = new DataTransfer();
    putOnClipboard(clipboard, entries, (entry) => entry.title ?? `Title of ${entry.topic ?? ''}`);
    expect(clipboard.getData('text/plain')).toBe('Title of t\n\tHeading');
    expect(entriesOnClipboard(clipboard)).toEqual(entries);
  });

  it('makes headings of lines, deeper ones below the ones before', () => {
    expect(shape(headingsOf('One\n  - Two\n  - Three\n\t\tFour\r\nFive\n\n'))).toBe('One(Two Three(Four)) Five');
    expect(headingsOf('')).toEqual([]);
  });

  it('takes nothing that is no outline', () => {
    for (const text of ['{', '[1]', '[{"id":"x","when":"not ("}]', '"x"']) {
      const clipboard = new DataTransfer();
      clipboard.setData('application/x-allomorph-entries', text);
      expect(entriesOnClipboard(clipboard)).withContext(text).toEqual([]);
    }
  });
});
