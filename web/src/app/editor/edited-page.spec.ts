import type { HttpTestingController, TestRequest } from '@angular/common/http/testing';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { makeNode, makeText, type Component, type ComponentClosure, type ContentNode } from '@allomorph/core';
import { component, configure, draftsHereOnly, noticesFromNow, requestsTo, signedInAs, until } from '../shared/testing';
import type { ContentEditor } from './content-editor';
import { EditedPage } from './edited-page';
import { EditorLibrary } from './editor-library';

const page = (words: string): ContentNode =>
  makeNode('topic', {}, [
    makeNode('title', {}, [makeText('T')]),
    makeNode('paragraph', { id: 'b1' }, [makeText(words)]),
  ]);
const topic = (key: string, words: string, revision = 1): Component => component(key, 'topic', page(words), revision);
const closureOf = (shown: Component): ComponentClosure => ({ component: shown, components: [], held: [] });

describe('A page that is edited', () => {
  const key = signal('');
  /** What stands on the surface on which it is written. */
  let onSurface: ContentNode;
  let server: HttpTestingController;
  let edited: EditedPage;
  let said: readonly string[];

  const asked = async (of: string): Promise<TestRequest> => {
    const [request] = await requestsTo(server, `/api/components/${of}/closure`);
    if (!request) throw new Error(of);
    return request;
  };
  const open = async (shown: Component): Promise<void> => {
    key.set(shown.key);
    edited.load(shown.key);
    (await asked(shown.key)).flush(closureOf(shown));
    await until(() => edited.component()?.key === shown.key);
    onSurface = edited.body() as ContentNode;
  };
  const write = (words: string): void => {
    onSurface = page(words);
    edited.edited();
  };
  const saving = async (of: string): Promise<TestRequest> => {
    edited.save();
    const [request] = await requestsTo(server, `/api/components/${of}`);
    if (!request) throw new Error(of);
    return request;
  };

  beforeEach(() => {
    localStorage.clear();
    server = configure(draftsHereOnly, EditorLibrary);
    signedInAs(server, 'writer');
    said = noticesFromNow();
    const surface = {
      currentBody: () => onSurface,
      currentText: () => JSON.stringify(onSurface),
      run: () => true,
    } as unknown as ContentEditor;
    edited = TestBed.runInInjectionContext(
      () => new EditedPage({ key, editor: () => surface, paused: () => undefined, toldOnSaving: () => '' }),
    );
  });

  it('leaves the page alone that is open by then when the answer to a save comes', async () => {
    await open(topic('a', 'One.'));
    write('One, written.');
    const request = await saving('a');
    await open(topic('b', 'Two.'));
    write('Two, written.');
    request.flush(topic('a', 'One, written.', 2));
    expect([edited.component()?.key, edited.title(), edited.dirty(), edited.saving()]).toEqual([
      'b',
      'The b',
      true,
      false,
    ]);
    expect(said).toEqual(['“The a” is saved as revision 2.']);
    // What was saved waits as a draft no longer; what was written on the other page does.
    await open(topic('a', 'One, written.', 2));
    expect(edited.fromDraft()).toBeFalse();
    await open(topic('b', 'Two.'));
    expect([edited.fromDraft(), edited.body()]).toEqual([true, page('Two, written.')]);
  });

  it('asks about two versions only of the page that is open', async () => {
    await open(topic('a', 'One.'));
    write('One, written.');
    const request = await saving('a');
    await open(topic('b', 'Two.'));
    request.flush(
      { detail: 'Somebody saved.', current: topic('a', 'Theirs.', 2) },
      { status: 409, statusText: 'Conflict' },
    );
    expect([edited.conflict(), said]).toEqual([null, ['Somebody saved.']]);
    await open(topic('a', 'Theirs.', 2));
    expect([edited.fromDraft(), edited.body()]).toEqual([true, page('One, written.')]);
  });

  it('keeps what is written of it while another one is being opened, which is not said to be changed', async () => {
    await open(topic('a', 'One.'));
    key.set('b');
    edited.load('b');
    const request = await asked('b');
    write('One, written.');
    request.flush(closureOf(topic('b', 'Two.')));
    await until(() => edited.component()?.key === 'b');
    expect([edited.dirty(), edited.body()]).toEqual([false, page('Two.')]);
    await open(topic('a', 'One.'));
    expect([edited.fromDraft(), edited.body()]).toEqual([true, page('One, written.')]);
  });

  it('makes no new revision where nothing was changed', async () => {
    await open(topic('a', 'One.'));
    edited.save();
    server.expectNone('/api/components/a');
    write('One, written.');
    (await saving('a')).flush(topic('a', 'One, written.', 2));
    edited.save();
    server.expectNone('/api/components/a');
    expect(said).toEqual(['Saved as revision 2.']);
  });

  it('is saved as what it is, though the address names the next one already', async () => {
    await open(topic('a', 'One.'));
    key.set('b');
    edited.load('b');
    await asked('b');
    write('One, written.');
    const { request } = await saving('a');
    expect(request.body).toEqual(jasmine.objectContaining({ base: 1, body: page('One, written.') }));
  });

  it('does not bring back what is of another page by then', async () => {
    await open(topic('a', 'One.'));
    edited.bringBack(1);
    const [older] = await requestsTo(server, '/api/components/a/revisions/1');
    await open(topic('b', 'Two.'));
    older?.flush({ ...topic('a', 'Older.'), title: 'Older' });
    expect([edited.title(), edited.dirty()]).toEqual(['The b', false]);
  });

  it('is not hidden by what went wrong with an earlier one, and opens when the server is back', async () => {
    key.set('a');
    edited.load('a');
    const early = await asked('a');
    key.set('b');
    edited.load('b');
    const late = await asked('b');
    const away = { status: 503, statusText: 'Service Unavailable' };
    early.flush({ detail: 'Away.' }, away);
    expect(edited.problem()).toBe('');
    late.flush({ detail: 'Away.' }, away);
    await until(() => edited.problem() === 'Away.');
    edited.catchUp();
    (await asked('b')).flush(closureOf(topic('b', 'Two.')));
    await until(() => edited.component()?.key === 'b');
    expect(edited.problem()).toBe('');
  });
});
