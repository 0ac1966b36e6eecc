import { TestBed } from '@angular/core/testing';
import type { ComponentRow, ServerEvent } from '@allomorph/core';
import { Subject } from 'rxjs';
import type { HttpTestingController, TestRequest } from '@angular/common/http/testing';
import { configure, requestsTo, serverTells } from '../shared/testing';
import type { LibraryFilter } from './library-filter';
import { LibraryPlace } from './library';

const row = (key: string, more: Partial<ComponentRow> = {}): ComponentRow => ({
  key,
  kind: 'topic',
  title: `The ${key}`,
  revision: 1,
  uses: 0,
  conditions: [],
  excerpt: '',
  titleMarks: [],
  excerptMarks: [],
  through: null,
  archived: false,
  changedBy: 'Ines',
  changedAt: '2026-11-24T10:00:00Z',
  ...more,
});

describe('The library', () => {
  const events = new Subject<ServerEvent>();
  let server: HttpTestingController;
  const list = (): TestRequest[] => server.match((request) => request.url === '/api/components');

  const setUp = async () => {
    server = configure(serverTells(events));
    const fixture = TestBed.createComponent(LibraryPlace);
    const asked = await requestsTo(server, '/api/components');
    for (const request of server.match('/api/labels')) request.flush({ collections: [], tags: [], people: [] });
    return { fixture, asked };
  };

  it('asks the server for what the filters say, and shows how much there is', async () => {
    const { fixture, asked: requests } = await setUp();
    expect(requests.at(-1)?.request.params.get('usage')).toBe('any');
    expect(requests.at(-1)?.request.params.has('kind')).toBeFalse();
    requests.at(-1)?.flush({ total: 2, items: [row('a'), row('b')] });
    await fixture.whenStable();
    expect((fixture.nativeElement as HTMLElement).querySelector('.total')?.textContent).toBe('2');
  });

  it('passes over answers that come too late', async () => {
    const { fixture, asked: early } = await setUp();
    // What the buttons of the filter set.
    (fixture.componentInstance as unknown as { filter: LibraryFilter }).filter.kind.set('snippet');
    TestBed.tick();
    const late = list().at(-1);
    expect(late?.request.params.get('kind')).toBe('snippet');
    late?.flush({ total: 1, items: [row('s', { kind: 'snippet' })] });
    early.at(-1)?.flush({ total: 99, items: [row('a')] });
    await fixture.whenStable();
    expect((fixture.nativeElement as HTMLElement).querySelector('.total')?.textContent).toBe('1');
  });

  it('reads again when somebody saved something', async () => {
    await setUp();
    events.next({ type: 'component', key: 'a', revision: 2, by: '' });
    expect((await requestsTo(server, '/api/components')).length).toBe(1);
  });
});
