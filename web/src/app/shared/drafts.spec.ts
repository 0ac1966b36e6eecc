import type { HttpTestingController } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { makeNode, makeText, schemaVersion, type KeptDraft } from '@allomorph/core';
import { Drafts } from './drafts';
import { OpenWindow } from './open-window';
import { Session } from './session';
import { configure, requestsTo } from './testing';

describe('Drafts', () => {
  const draft = { base: 3, title: 'T', body: makeNode('topic') };
  let person = 'ines';
  let own = 'one';
  let open: readonly string[] = ['one', 'two'];
  let server: HttpTestingController;

  /** As it is kept. */
  const versioned = (text: string, version = schemaVersion): string => `{"version":${version},"draft":${text}}`;
  /** What the person writes in a window. */
  const draftsOf = (who: string, where: string): Drafts => {
    [person, own] = [who, where];
    return TestBed.inject(Drafts);
  };

  beforeEach(() => {
    localStorage.clear();
    [person, own, open] = ['ines', 'one', ['one', 'two']];
    server = configure(
      { provide: Session, useValue: { person: () => ({ id: person, signIn: person }), mayWrite: () => true } },
      { provide: OpenWindow, useValue: { id: () => own, allOpen: () => Promise.resolve(new Set(open)) } },
    );
  });

  const address = '/api/me/drafts';
  /** What is read where this browser has nothing: what the server has. */
  const readWith = async (drafts: Drafts, kept: readonly KeptDraft[]): Promise<object | null> => {
    const reading = drafts.read<object>('a');
    const [asked] = await requestsTo(server, address);
    expect([asked?.request.method, asked?.request.params.get('thing')]).toEqual(['GET', 'a']);
    asked?.flush(kept);
    return reading;
  };
  /** What the server is told next, without waiting for more. */
  const told = async (): Promise<unknown> => {
    window.dispatchEvent(new Event('online'));
    const [request] = await requestsTo(server, address);
    request?.flush(null);
    const { method, body, params } = request?.request ?? {};
    return [method, body ?? `${params?.get('thing')} ${params?.get('window')}`];
  };

  it('are kept for each component until they are dropped', async () => {
    const drafts = draftsOf('ines', 'one');
    drafts.keep('a', draft);
    expect(await drafts.read<object>('a')).toEqual(draft);
    drafts.drop('a');
    expect(await readWith(drafts, [])).toBeNull();
  });

  it('are those of one person, and of one window as long as that is open', async () => {
    draftsOf('ines', 'one').keep('a', draft);
    expect(await readWith(draftsOf('tomasz', 'one'), [])).toBeNull();
    expect(await readWith(draftsOf('ines', 'two'), [])).toBeNull();
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
    expect(await readWith(drafts, [])).toBeNull();
    spyOn(Storage.prototype, 'setItem').and.throwError('QuotaExceededError');
    expect(() => drafts.keep('a', draft)).not.toThrow();
  });

  it('are told to the server, the last state of each, until they are dropped', async () => {
    const drafts = draftsOf('ines', 'one');
    drafts.drop('a');
    drafts.keep('a', { words: 'first' });
    drafts.keep('a', { words: 'last' });
    expect(await told()).toEqual(['PUT', { thing: 'a', window: 'one', draft: versioned('{"words":"last"}') }]);
    drafts.drop('a');
    // The server does not know yet.
    expect(await readWith(drafts, [{ window: 'one', draft: '{"words":"last"}', at: '' }])).toBeNull();
    expect(await told()).toEqual(['DELETE', 'a one']);
    server.verify();
  });

  it('are told again when the server was away, and to nobody who signed in meanwhile', async () => {
    const drafts = draftsOf('ines', 'one');
    drafts.keep('a', draft);
    window.dispatchEvent(new Event('online'));
    const [lost] = await requestsTo(server, address);
    lost?.error(new ProgressEvent('error'));
    expect(await told()).toEqual(['PUT', { thing: 'a', window: 'one', draft: versioned(JSON.stringify(draft)) }]);
    drafts.keep('b', draft);
    draftsOf('tomasz', 'one').keep('c', draft);
    expect(await told()).toEqual(['PUT', { thing: 'c', window: 'one', draft: versioned(JSON.stringify(draft)) }]);
    server.verify();
  });

  it('of another computer are taken over, those of windows that are open here are not', async () => {
    const at = '2026-11-02T10:00:00.000Z';
    const drafts = draftsOf('ines', 'one');
    const here: KeptDraft = { window: 'two', draft: '{"words":"here"}', at };
    expect(await readWith(drafts, [here])).toBeNull();
    const there: KeptDraft = { window: 'elsewhere', draft: '{"words":"there"}', at };
    expect(await readWith(drafts, [here, there])).toEqual({ words: 'there' });
    expect(await drafts.read<object>('a')).toEqual({ words: 'there' });
    expect(await told()).toEqual(['PUT', { thing: 'a', window: 'one', draft: versioned(there.draft) }]);
    expect(await told()).toEqual(['DELETE', 'a elsewhere']);
  });

  it('of an earlier version of the program are read as of today, those of a later one are left where they are', async () => {
    const drafts = draftsOf('ines', 'one');
    const words = (when: unknown) => makeText('x', [{ type: 'condition', attrs: { when } }]);
    const body = (when: unknown) => makeNode('phrase', null, [words(when)]);
    const earlier = { window: 'one', draft: versioned(JSON.stringify({ body: body(5) }), 1), at: '' };
    expect(await readWith(drafts, [earlier])).toEqual({ body: body('5?') });
    expect(await drafts.read<object>('a')).toEqual({ body: body('5?') });
    const [name = ''] = Object.keys(localStorage);
    const later = versioned('{"words":"later"}', schemaVersion + 1);
    localStorage.setItem(name, later);
    expect(await readWith(draftsOf('ines', 'one'), [])).toBeNull();
    expect(localStorage.getItem(name)).toBe(later);
  });
});
