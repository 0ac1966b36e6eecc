import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { BuildRow, ServerEvent, VariantFreshness } from '@allomorph/core';
import { Subject } from 'rxjs';
import { Lens } from '../shared/lens';
import { configure, requestsTo, serverTells, signedInAs, testVariant, untilDrawn } from '../shared/testing';
import { BuildBoard } from './build-board';

const variant = (id: string, more: Partial<VariantFreshness> = {}): VariantFreshness => ({
  variant: id,
  title: `Variant ${id}`,
  publication: 'book',
  publicationTitle: 'The Book',
  build: 'b1',
  builtAt: '2026-11-24T10:00:00Z',
  state: 'fresh',
  causes: [],
  formats: [],
  staleFormats: [],
  ...more,
});
const made = {
  state: 'done' as const,
  bytes: 10_000,
  pages: null,
  milliseconds: 5,
  message: null,
  hasSeveralFiles: false,
};

describe('The board of builds', () => {
  let events: Subject<ServerEvent>;
  let fixture: ComponentFixture<BuildBoard>;
  let asked: (readonly string[])[];

  const show = async (variants: readonly VariantFreshness[], builds: readonly Partial<BuildRow>[] = []) => {
    events = new Subject();
    const server = configure(serverTells(events));
    signedInAs(server, 'writer');
    TestBed.inject(Lens).variants.set([
      { ...testVariant, id: 'one', formats: ['html', 'pdf'] },
      { ...testVariant, id: 'two', formats: ['pdf'] },
    ]);
    fixture = TestBed.createComponent(BuildBoard);
    asked = [];
    fixture.componentInstance.build.subscribe((ids) => asked.push(ids));
    fixture.componentRef.setInput('readings', 0);
    for (const request of await requestsTo(server, '/api/freshness')) request.flush(variants);
    for (const request of await requestsTo(server, '/api/builds'))
      request.flush({ total: builds.length, items: builds });
    const host = fixture.nativeElement as HTMLElement;
    await untilDrawn(host, () => host.querySelector('tbody') !== null);
    return host;
  };
  const cells = (host: HTMLElement): readonly string[] =>
    [...host.querySelectorAll('tbody tr:not(.group)')].map((row) =>
      [...row.querySelectorAll('.format')].map((cell) => cell.textContent.trim()).join(' | '),
    );

  it('has variants by publication, and says of each format how it stands and where it is read', async () => {
    const failed = { ...made, state: 'failed' as const, message: 'It broke.' };
    const host = await show([
      variant('one', {
        formats: [
          { ...made, format: 'html' },
          { ...failed, format: 'pdf' },
        ],
      }),
      variant('two', {
        state: 'stale',
        staleFormats: ['pdf'],
        publication: 'other',
        publicationTitle: 'Another',
        formats: [{ ...made, format: 'pdf', pages: 12 }],
      }),
    ]);
    expect([...host.querySelectorAll('thead .format')].map((each) => each.textContent)).toEqual(['Web site', 'PDF']);
    const titles = [...host.querySelectorAll('.group a:not(.together)')].map((each) => each.textContent);
    expect(titles).toEqual(['The Book', 'Another']);
    const together = [...host.querySelectorAll('.group .together')].map((each) => each.getAttribute('href'));
    expect(together).toEqual(['/api/publications/book/zip', '/api/publications/other/zip']);
    expect(cells(host)).toEqual(['fresh | failed', ' | stale']);
    const link = host.querySelector('a.stale');
    expect(link?.getAttribute('href')).toBe('/api/deliverables/b1/pdf/document.pdf');
    expect(link?.getAttribute('aria-label')).toBe('PDF, stale, 12 pages, 10 kB');
    expect(host.querySelector('.failed')?.getAttribute('title')).toBe('PDF: It broke.');
  });

  it('follows what is being built, and tells what failed last', async () => {
    const host = await show(
      [variant('one', { build: null, state: 'no deliverable' }), variant('two')],
      [
        { id: 'b2', variant: 'one', state: 'queued', progress: 0 },
        { id: 'b3', variant: 'two', state: 'failed', progress: 1 },
      ],
    );
    const acts = () => [...host.querySelectorAll('.act')].map((each) => each.textContent.replace(/\s+/g, ' ').trim());
    expect(acts()).toEqual(['waits Stop', 'last build failed Build']);
    events.next({ type: 'build', id: 'b2', state: 'running', stage: 'making PDF', progress: 0.6 });
    TestBed.tick();
    expect(acts()[0]).toBe('built, 60 % Stop');
    const stopped: string[] = [];
    fixture.componentInstance.stop.subscribe((id) => stopped.push(id));
    host.querySelector<HTMLButtonElement>('.act button')?.click();
    expect(stopped).toEqual(['b2']);
    expect(cells(host)[0]).toBe('none | none');
  });

  it('builds one, or those that are chosen among those that are found', async () => {
    const host = await show([variant('one'), variant('two', { publication: 'other', publicationTitle: 'Another' })]);
    host.querySelector<HTMLButtonElement>('.act button')?.click();
    const find = host.querySelector<HTMLInputElement>('input[type=search]');
    if (find) find.value = 'another';
    find?.dispatchEvent(new Event('input'));
    TestBed.tick();
    expect(cells(host).length).toBe(1);
    host.querySelector<HTMLInputElement>('thead input')?.click();
    TestBed.tick();
    host.querySelector<HTMLButtonElement>('.filters button')?.click();
    expect(asked).toEqual([['one'], ['two']]);
  });
});
