import { TestBed } from '@angular/core/testing';
import { makeNode } from '@allomorph/core';
import { Drafts } from './drafts';
import { OpenWindow } from './open-window';
import { Session } from './session';
import { configure } from './testing';

describe('Drafts', () => {
  const draft = { base: 3, title: 'T', body: makeNode('topic') };
  let person = 'ines';
  let own = 'one';
  let open: readonly string[] = ['one', 'two'];

  /** What the person writes in a window. */
  const draftsOf = (who: string, where: string): Drafts => {
    [person, own] = [who, where];
    return TestBed.inject(Drafts);
  };

  beforeEach(() => {
    localStorage.clear();
    [person, own, open] = ['ines', 'one', ['one', 'two']];
    configure(
      { provide: Session, useValue: { person: () => ({ signIn: person }) } },
      { provide: OpenWindow, useValue: { id: () => own, allOpen: () => Promise.resolve(new Set(open)) } },
    );
  });

  it('are kept for each component until they are dropped', async () => {
    const drafts = draftsOf('ines', 'one');
    drafts.keep('a', draft);
    expect(await drafts.read<object>('a')).toEqual(draft);
    expect(await drafts.read<object>('b')).toBeNull();
    drafts.drop('a');
    expect(await drafts.read<object>('a')).toBeNull();
  });

  it('are those of one person, and of one window as long as that is open', async () => {
    draftsOf('ines', 'one').keep('a', draft);
    expect(await draftsOf('tomasz', 'one').read<object>('a')).toBeNull();
    expect(await draftsOf('ines', 'two').read<object>('a')).toBeNull();
    draftsOf('ines', 'two').drop('a');
    expect(await draftsOf('ines', 'one').read<object>('a')).toEqual(draft);
    open = ['two'];
    expect(await draftsOf('ines', 'two').read<object>('a')).toEqual(draft);
    draftsOf('ines', 'two').drop('a');
    expect(localStorage.length).toBe(0);
  });

  it('are nothing where the store is broken or full', async () => {
    const drafts = draftsOf('ines', 'one');
    drafts.keep('a', draft);
    localStorage.setItem(Object.keys(localStorage)[0] ?? '', '{"base":');
    expect(await drafts.read<object>('a')).toBeNull();
    spyOn(Storage.prototype, 'setItem').and.throwError('QuotaExceededError');
    expect(() => drafts.keep('a', draft)).not.toThrow();
  });
});
