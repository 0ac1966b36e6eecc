import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { OutlineEntry } from '@allomorph/core';
import { configure, noticesFromNow, signedInAs } from '../shared/testing';
import { OutlineActs } from './outline-acts';

const outline = (...ids: string[]): readonly OutlineEntry[] => ids.map((id) => ({ id, topic: id }));

describe('Acts on an outline', () => {
  const entries = signal<readonly OutlineEntry[]>([]);
  const chosenId = signal<string | null>(null);
  const ids = (): string[] => entries().map(({ id }) => id);
  let said: readonly string[];

  const open = (...of: string[]): OutlineActs => {
    const server = configure();
    signedInAs(server, 'keeper');
    entries.set(outline(...of));
    chosenId.set(null);
    said = noticesFromNow();
    return TestBed.runInInjectionContext(
      () =>
        new OutlineActs({
          entries,
          chosenId,
          titleOf: signal(({ id }: OutlineEntry) => id),
          choose: (id) => chosenId.set(id),
          put: (put) => entries.set(put),
          focus: () => undefined,
        }),
    );
  };

  it('are for all entries that are picked, and are undone and done again', () => {
    const acts = open('a', 'b', 'c');
    acts.pick(new Set(['a', 'b']));
    acts.remove();
    expect(ids()).toEqual(['c']);
    acts.undo();
    expect(ids()).toEqual(['a', 'b', 'c']);
    acts.redo();
    expect(ids()).toEqual(['c']);
    expect(said).toEqual([]);
  });

  it('say so where somebody else has changed the outline since, and leave that alone', () => {
    const acts = open('a', 'b');
    acts.choose('a');
    acts.remove();
    entries.set(outline('b', 'theirs'));
    acts.undo();
    expect(ids()).toEqual(['b', 'theirs']);
    expect(said).toEqual([jasmine.stringContaining('Somebody else has changed the outline')]);
    // There is nothing left to undo, which is no reason to say anything.
    acts.undo();
    expect(said.length).toBe(1);
  });

  it('are for nothing when another outline begins, whose entries may have the same ids', () => {
    const acts = open('a', 'b');
    acts.pick(new Set(['a', 'b']));
    entries.set(outline('a', 'b', 'c'));
    acts.begin();
    expect([...acts.pickedNow()]).toEqual([]);
    acts.remove();
    expect(ids()).toEqual(['a', 'b', 'c']);
  });
});
