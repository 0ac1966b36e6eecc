import { createEnvironmentInjector, EnvironmentInjector, runInInjectionContext, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Subject } from 'rxjs';
import { Sending } from './sending';
import { configure, noticesFromNow } from './testing';

describe('Sending a form', () => {
  let place: EnvironmentInjector;
  let sending: Sending;
  let notices: readonly string[];
  let answer: Subject<string>;
  let done: (readonly [string, boolean])[];
  const send = (): void => sending.send(answer, (...told) => done.push(told));

  beforeEach(() => {
    configure();
    notices = noticesFromNow();
    place = createEnvironmentInjector([], TestBed.inject(EnvironmentInjector));
    sending = runInInjectionContext(place, () => new Sending());
    [answer, done] = [new Subject(), []];
    sending.begin();
  });

  it('is done once, however often it is asked for before the answer', () => {
    send();
    send();
    expect(sending.busy()).toBeTrue();
    answer.next('made');
    expect([sending.busy(), done]).toEqual([false, [['made', true]]]);
  });

  it('says beside the form what went wrong, until it is sent again', () => {
    send();
    answer.error(new Error('It is full.'));
    expect([sending.busy(), sending.problem(), notices]).toEqual([false, 'It is full.', []]);
    answer = new Subject();
    send();
    expect(sending.problem()).toBe('');
  });

  it('tells that the form was closed, or opened for something else, before the answer came', () => {
    send();
    sending.begin();
    const first = answer;
    answer = new Subject();
    send();
    first.next('late');
    expect([sending.busy(), done]).toEqual([true, [['late', false]]]);
    answer.next('made');
    expect([sending.busy(), done.at(-1)]).toEqual([false, ['made', true]]);
  });

  it('says in a notice what went wrong where the form is not there any more', () => {
    send();
    sending.begin();
    answer.error(new Error('It is full.'));
    expect([sending.problem(), notices]).toEqual(['', ['It is full.']]);
  });

  it('begins anew with each change of what the form asks', () => {
    const isOpen = signal(true);
    sending = runInInjectionContext(place, () => new Sending(isOpen));
    TestBed.tick();
    sending.problem.set('Give it a title.');
    TestBed.tick();
    expect(sending.problem()).toBe('Give it a title.');
    send();
    isOpen.set(false);
    TestBed.tick();
    answer.error(new Error('It is full.'));
    expect([sending.busy(), sending.problem(), notices]).toEqual([false, '', ['It is full.']]);
  });

  it('calls nobody who is gone', () => {
    send();
    place.destroy();
    answer.next('made');
    expect(done).toEqual([]);
  });
});
