import { HttpErrorResponse } from '@angular/common/http';
import { createEnvironmentInjector, EnvironmentInjector, inject, runInInjectionContext } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { of, Subject, throwError, type Observable } from 'rxjs';
import { Edits, type Editing } from './editing';
import { Session } from './session';
import { configure, draftsHereOnly, noticesFromNow } from './testing';

interface Thing {
  readonly key: string;
  readonly title: string;
  readonly text: string;
  readonly revision: number;
}
type Parts = Pick<Thing, 'title' | 'text'>;

const thing = (change: Partial<Thing> = {}): Thing => ({ key: 'a', title: 'A', text: 'x', revision: 1, ...change });
const refusedFor = (current: Thing): Observable<never> =>
  throwError(() => new HttpErrorResponse({ status: 409, error: { detail: 'Somebody saved.', current } }));

describe('An editing session', () => {
  let editing: Editing<Thing, Parts>;
  let answers: ((from: Thing, parts: Parts) => Observable<Thing>)[];
  let saves: { readonly base: number; readonly parts: Parts }[];

  const begin = (where = TestBed.inject(EnvironmentInjector), theirs?: () => Thing | null): Editing<Thing, Parts> =>
    runInInjectionContext(where, () =>
      inject(Edits).of<Thing, Parts>({
        ...(theirs && { theirs }),
        nameOf: ({ key }) => `thing ${key}`,
        titleOf: ({ title }) => title,
        partsOf: ({ title, text }) => ({ title, text }),
        save: (from, parts) => {
          saves.push({ base: from.revision, parts });
          return answers.shift()?.(from, parts) ?? throwError(() => new Error('not told'));
        },
      }),
    );
  const takes = (from: Thing, parts: Parts): Observable<Thing> =>
    of({ ...from, ...parts, revision: from.revision + 1 });
  let notices: readonly string[];

  beforeEach(() => {
    localStorage.clear();
    configure(
      { provide: Session, useValue: { person: () => ({ signIn: 'ines' }), mayWrite: () => true } },
      draftsHereOnly,
    );
    notices = noticesFromNow();
    [answers, saves] = [[], []];
    editing = begin();
  });

  it('is changed as soon as something differs, and not when it is put back', async () => {
    await editing.show(thing());
    expect(editing.dirty()).toBeFalse();
    editing.change({ title: 'B' });
    expect(editing.dirty()).toBeTrue();
    editing.change({ title: 'A' });
    expect(editing.dirty()).toBeFalse();
  });

  it('keeps what was changed across other things, and across windows that were closed', async () => {
    await editing.show(thing());
    editing.change({ title: 'B' });
    await editing.show(thing({ key: 'other' }));
    expect(editing.parts()).toEqual({ title: 'A', text: 'x' });
    await editing.show(thing());
    expect([editing.parts()?.title, editing.fromDraft()]).toEqual(['B', true]);
    const again = begin();
    await again.show(thing());
    expect(again.parts()?.title).toBe('B');
    again.discard();
    const afterwards = begin();
    await afterwards.show(thing());
    expect([afterwards.parts()?.title, afterwards.fromDraft()]).toEqual(['A', false]);
  });

  it('shows what somebody else saved, unless something is being changed here', async () => {
    await editing.show(thing());
    await editing.show(thing({ text: 'theirs', revision: 2 }));
    expect(editing.parts()?.text).toBe('theirs');
    editing.change({ title: 'Mine' });
    await editing.show(thing({ text: 'again', revision: 3 }));
    expect([editing.parts(), editing.savedElsewhere()]).toEqual([{ title: 'Mine', text: 'theirs' }, 3]);
  });

  it('leaves what is shown by then alone when the answer to a save comes', async () => {
    const answer = new Subject<Thing>();
    answers = [() => answer];
    await editing.show(thing());
    editing.change({ title: 'B' });
    editing.save(() => undefined);
    await editing.show(thing({ key: 'other', title: 'Other', text: 'o' }));
    expect(editing.saving()).toBeFalse();
    answer.next(thing({ title: 'B', revision: 2 }));
    expect([editing.base()?.key, editing.parts(), editing.dirty()]).toEqual([
      'other',
      { title: 'Other', text: 'o' },
      false,
    ]);
    expect(notices).toEqual(['“B” is saved as revision 2.']);
    // What was saved waits as a draft no longer.
    await editing.show(thing({ title: 'B', revision: 2 }));
    expect([editing.parts()?.title, editing.fromDraft()]).toEqual(['B', false]);
  });

  it('keeps what was written of a thing after its save began, though another one is shown by then', async () => {
    const answer = new Subject<Thing>();
    answers = [() => answer];
    await editing.show(thing());
    editing.change({ title: 'B' });
    editing.save(() => undefined);
    editing.change({ text: 'later' });
    await editing.show(thing({ key: 'other' }));
    answer.next(thing({ title: 'B', revision: 2 }));
    await editing.show(thing({ title: 'B', revision: 2 }));
    expect([editing.parts(), editing.base()?.revision, editing.savedElsewhere()]).toEqual([
      { title: 'B', text: 'later' },
      2,
      null,
    ]);
  });

  it('asks nothing about a thing that is not shown any more, and keeps what was written of it', async () => {
    const answer = new Subject<Thing>();
    answers = [() => answer];
    await editing.show(thing());
    editing.change({ title: 'B' });
    editing.save(() => undefined);
    await editing.show(thing({ key: 'other' }));
    const current = thing({ title: 'Theirs', revision: 2 });
    answer.error(new HttpErrorResponse({ status: 409, error: { detail: 'Somebody saved.', current } }));
    expect([editing.conflict(), notices]).toEqual([null, ['Somebody saved.']]);
    await editing.show(current);
    expect([editing.parts()?.title, editing.fromDraft()]).toEqual(['B', true]);
  });

  it('puts together what two changed of different parts, without asking', async () => {
    await editing.show(thing());
    editing.change({ title: 'Mine' });
    answers = [() => refusedFor(thing({ text: 'theirs', revision: 2 })), takes];
    const done: Thing[] = [];
    editing.save((each) => done.push(each));
    expect(saves).toEqual([
      { base: 1, parts: { title: 'Mine', text: 'x' } },
      { base: 2, parts: { title: 'Mine', text: 'theirs' } },
    ]);
    expect([done[0]?.revision, editing.dirty(), editing.conflict()]).toEqual([3, false, null]);
    expect(notices).toEqual(['“Mine” is saved as revision 3, with what somebody else changed meanwhile.']);
  });

  it('asks where both changed the same, and does what is said', async () => {
    const theirs = thing({ title: 'Theirs', text: 'theirs', revision: 2 });
    const refuse = async (): Promise<void> => {
      editing = begin();
      await editing.show(thing());
      editing.change({ title: 'Mine' });
      answers = [() => refusedFor(theirs), takes];
      editing.save(() => undefined);
      expect(editing.conflict()).toEqual({ theirs, both: ['title'] });
    };
    await refuse();
    editing.keepMine(() => undefined);
    expect(saves.at(-1)).toEqual({ base: 2, parts: { title: 'Mine', text: 'theirs' } });
    expect(editing.dirty()).toBeFalse();
    await refuse();
    editing.takeTheirs();
    expect([editing.parts(), editing.dirty()]).toEqual([{ title: 'Theirs', text: 'theirs' }, false]);
  });

  it('keeps what is written while it is being saved', async () => {
    await editing.show(thing());
    editing.change({ title: 'One' });
    const slow = new Subject<Thing>();
    answers = [() => slow];
    editing.save(() => undefined);
    editing.change({ title: 'Two' });
    slow.next(thing({ title: 'One', revision: 2 }));
    expect([editing.parts()?.title, editing.dirty(), editing.base()?.revision]).toEqual(['Two', true, 2]);
  });

  it('forgets what was written of a new thing once that is made, whatever it is called by then', async () => {
    const made = (): Observable<Thing> => of(thing({ key: 'made', title: 'B' }));
    const another = thing({ key: '', title: '', revision: 0 });
    await editing.show(another);
    editing.change({ title: 'B' });
    editing.keepDraft();
    answers = [made];
    editing.save(() => undefined);
    const next = begin();
    await next.show(another);
    expect([next.parts()?.title, next.fromDraft()]).toEqual(['', false]);
    // The same where another thing is shown by then.
    const slow = new Subject<Thing>();
    answers = [() => slow];
    next.change({ title: 'B' });
    next.save(() => undefined);
    next.change({ text: 'later' });
    await next.show(thing());
    slow.next(thing({ key: 'made', title: 'B' }));
    await next.show(another);
    expect([next.parts()?.title, next.fromDraft()]).toEqual(['', false]);
    await next.show(thing({ key: 'made', title: 'B' }));
    expect([next.parts(), next.fromDraft()]).toEqual([{ title: 'B', text: 'later' }, true]);
  });

  it('tells nobody who is gone that something is saved', async () => {
    const place = createEnvironmentInjector([], TestBed.inject(EnvironmentInjector));
    const answer = new Subject<Thing>();
    const done: Thing[] = [];
    answers = [() => answer];
    editing = begin(place);
    await editing.show(thing());
    editing.change({ title: 'B' });
    editing.save((saved) => done.push(saved));
    place.destroy();
    answer.next(thing({ title: 'B', revision: 2 }));
    expect([done, notices]).toEqual([[], ['“B” is saved as revision 2.']]);
  });

  it('asks those who know what a refusal means for the thing', async () => {
    editing = begin(undefined, () => null);
    await editing.show(thing());
    editing.change({ title: 'B' });
    answers = [() => refusedFor(thing({ title: 'Theirs', revision: 2 }))];
    editing.save(() => undefined);
    expect([editing.conflict(), editing.dirty(), notices]).toEqual([null, true, ['Somebody saved.']]);
  });

  it('says why a save failed, and loses nothing', async () => {
    await editing.show(thing());
    editing.change({ title: 'B' });
    answers = [() => throwError(() => new HttpErrorResponse({ status: 0 }))];
    editing.save(() => undefined);
    expect(notices).toEqual(['The server cannot be reached; nothing was saved. Is it still running?']);
    expect([editing.dirty(), editing.saving()]).toEqual([true, false]);
  });
});
