import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { HttpTestingController } from '@angular/common/http/testing';
import { Router } from '@angular/router';
import type { BuildDetail, BuildRow, ServerEvent } from '@allomorph/core';
import { Subject } from 'rxjs';
import { configure, requestsTo, serverTells, untilDrawn } from '../shared/testing';
import { BuildsPlace } from './builds';

const row = (id: string, more: Partial<BuildRow> = {}): BuildRow => ({
  id,
  variant: 'v',
  variantTitle: `Variant ${id}`,
  publication: 'book',
  publicationTitle: 'The Book',
  state: 'done',
  stage: 'finished',
  progress: 1,
  startedBy: 'Ines',
  queuedAt: '2026-11-24T10:00:00Z',
  endedAt: '2026-11-24T10:00:02Z',
  pages: 3,
  bytes: 2_500_000,
  digest: 'd'.repeat(64),
  errors: 0,
  warnings: 0,
  message: null,
  formats: [],
  shipped: null,
  hasFiles: true,
  ...more,
});

describe('Builds', () => {
  let events: Subject<ServerEvent>;
  let server: HttpTestingController;
  let fixture: ComponentFixture<BuildsPlace>;
  let host: HTMLElement;

  /** What is stale, and what deliverables take, is asked for beside the list; these tests are not about it. */
  const answerFreshness = (): void => {
    server
      .match('/api/freshness')
      .filter((request) => !request.cancelled)
      .forEach((request) => request.flush([]));
    server
      .match('/api/storage')
      .filter((request) => !request.cancelled)
      .forEach((request) => request.flush({ kept: 10, deliverables: 1, bytes: 1000, shippedBytes: 0 }));
  };
  const answerList = async (items: readonly BuildRow[]): Promise<void> => {
    for (const request of await requestsTo(server, '/api/builds')) request.flush({ total: items.length, items });
  };
  const open = async (rows: readonly BuildRow[], chosen?: string): Promise<void> => {
    events = new Subject();
    server = configure(serverTells(events));
    await TestBed.inject(Router).navigateByUrl('/?view=all');
    fixture = TestBed.createComponent(BuildsPlace);
    if (chosen !== undefined) fixture.componentRef.setInput('build', chosen);
    TestBed.tick();
    await answerList(rows);
    answerFreshness();
    host = fixture.nativeElement as HTMLElement;
    // Rows are drawn where they come into view.
    host.style.height = '40rem';
    document.body.append(host);
    await untilDrawn(host, () => host.querySelector('tbody b') !== null);
  };
  afterEach(() => host.remove());

  const detail = async (more: Partial<BuildDetail>): Promise<void> => {
    const found: BuildDetail = {
      ...row('a'),
      problems: [],
      canBeMadeAgain: true,
      again: null,
      recipe: { profile: 'p', design: 'plain', language: 'en', formats: ['html'] },
      ...more,
    };
    // It is asked for again when the list has told the build's state.
    for (let round = 0; round < 3; round += 1) {
      TestBed.tick();
      server
        .match((request) => request.url.startsWith('/api/builds/'))
        .filter((request) => !request.cancelled)
        .forEach((request) => request.flush(found));
      answerFreshness();
      await Promise.resolve();
    }
    await fixture.whenStable();
  };

  it('follow what the server tells, and are read again at the end', async () => {
    await open([row('a', { state: 'queued', endedAt: null })]);
    events.next({ type: 'build', id: 'a', state: 'running', stage: 'numbering', progress: 0.45 });
    await fixture.whenStable();
    expect(host.querySelector('tbody')?.textContent).toContain('numbering');
    events.next({ type: 'build', id: 'a', state: 'done', stage: 'finished', progress: 1 });
    await answerList([row('a')]);
    answerFreshness();
    await fixture.whenStable();
    expect(host.querySelector('tbody')?.textContent).toContain('Done');
    expect(host.querySelector('tbody')?.textContent).toContain('2.0 s');
  });

  it('follow the build that is shown, also where the list does not have it', async () => {
    await open([row('b')], 'a');
    await detail({ state: 'running', digest: null });
    expect(host.querySelector('dl')?.textContent).toContain('Being built');
    events.next({ type: 'build', id: 'a', state: 'done', stage: 'finished', progress: 1 });
    await detail({ state: 'done' });
    expect(host.querySelector('dl')?.textContent).toContain('Done');
  });

  it('are read anew when it may have been missed how they went on', async () => {
    await open([row('a', { state: 'running', progress: 0.5 })]);
    events.next({ type: 'build', id: 'a', state: 'running', stage: 'writing', progress: 0.7 });
    events.next({ type: 'missed' });
    await answerList([row('a')]);
    await untilDrawn(host, () => host.querySelector('tbody')?.textContent?.includes('Done') === true);
    expect(host.querySelector('tbody')?.textContent).not.toContain('Being built');
  });

  it('lead from each problem to where it is mended', async () => {
    await open([row('a', { errors: 2 })], 'a');
    await detail({
      problems: [
        {
          severity: 'error',
          code: 'missing-variable',
          message: 'In a block.',
          place: { component: 'topic', block: 'b1', entry: null },
        },
        {
          severity: 'error',
          code: 'undefined-value',
          message: 'In an entry.',
          place: { component: null, block: null, entry: 'e4' },
        },
        {
          severity: 'warning',
          code: 'empty-topic',
          message: 'Nowhere.',
          place: { component: null, block: null, entry: null },
        },
      ],
    });
    const problems = [...host.querySelectorAll('.problems li')];
    expect(problems.map((each) => each.querySelector('a')?.getAttribute('href') ?? null)).toEqual([
      '/edit/topic?block=b1',
      '/publications/book?entry=e4',
      null,
    ]);
    expect(host.querySelector('dl')?.textContent).toContain('3 topics, 2.5 MB');
  });

  it('offer the deliverable of a build that was done, and say why another was not', async () => {
    await open([row('a')], 'a');
    const made = { state: 'done' as const, bytes: 10_000, milliseconds: 5, message: null, hasSeveralFiles: false };
    await detail({
      formats: [
        { ...made, format: 'html', pages: null },
        { ...made, format: 'pdf', pages: 12 },
        { ...made, format: 'markdown', pages: null, state: 'failed', message: 'It broke.' },
      ],
    });
    const links = [...host.querySelectorAll('.acts a[href^="/api"]')].map((link) => link.getAttribute('href'));
    expect(links).toEqual([
      '/api/builds/a/zip',
      '/api/deliverables/a/html/index.html',
      '/api/builds/a/zip?format=html',
      '/api/deliverables/a/pdf/document.pdf',
      '/api/deliverables/a/pdf/document.pdf',
    ]);
    expect(host.querySelector('.formats')?.textContent).toMatch(/PDF\s*12 pages,\s*10 kB[\s\S]*It broke\./);
    TestBed.resetTestingModule();
    await open([row('a', { state: 'failed' })], 'a');
    await detail({ state: 'failed', message: 'The variant is strict and the build has errors.', digest: null });
    expect(host.querySelectorAll('.acts a').length).toBe(0);
    expect(host.textContent).toContain('The variant is strict');
  });
});
