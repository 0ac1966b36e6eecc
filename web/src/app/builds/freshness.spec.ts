import { TestBed } from '@angular/core/testing';
import type { NamedCause, VariantFreshness } from '@allomorph/core';
import { configure, signedInAs } from '../shared/testing';
import { causeText, Freshness } from './freshness';

const variant = (title: string, more: Partial<VariantFreshness> = {}): VariantFreshness => ({
  variant: `id of ${title}`,
  title,
  publication: 'book',
  publicationTitle: 'The Book',
  build: 'b',
  builtAt: '2026-11-24T10:00:00Z',
  state: 'fresh',
  causes: [],
  formats: [],
  staleFormats: [],
  ...more,
});
const changed: NamedCause = { kind: 'component', component: 'c', from: 2, to: 4, title: 'Caution' };

async function show(answer: readonly VariantFreshness[]) {
  const server = configure();
  signedInAs(server, 'writer');
  const fixture = TestBed.createComponent(Freshness);
  const asked: (readonly string[])[] = [];
  fixture.componentInstance.build.subscribe((ids) => asked.push(ids));
  fixture.componentRef.setInput('readings', 0);
  TestBed.tick();
  server.expectOne('/api/freshness').flush(answer);
  await fixture.whenStable();
  TestBed.tick();
  return { host: fixture.nativeElement as HTMLElement, asked };
}

describe('Freshness', () => {
  it('names what is stale with its causes, and builds it', async () => {
    const { host, asked } = await show([
      variant('Old', { state: 'stale', causes: [changed, { kind: 'outline', title: '' }] }),
      variant('Good'),
      variant('New', { state: 'no deliverable', build: null, builtAt: null }),
    ]);
    expect(host.querySelector('summary')?.textContent).toContain('1 of 2 deliverables is stale.');
    expect(host.querySelector('summary')?.textContent).toContain('1 variant has none.');
    expect(host.querySelector('details > ul > li:last-child')?.textContent).toMatch(/New.*no deliverable/);
    expect(host.querySelector('.causes a')?.getAttribute('href')).toBe('/edit/c');
    expect(host.querySelector('.causes')?.textContent).toContain('changed from revision 2 to 4');
    host.querySelector('button')?.click();
    expect(asked).toEqual([['id of Old']]);
  });

  it('says where only some of the formats are stale', async () => {
    const made = {
      state: 'done' as const,
      bytes: 1,
      pages: null,
      milliseconds: 1,
      message: null,
      hasSeveralFiles: false,
    };
    const formats = ['html', 'pdf'].map((format) => ({ ...made, format }));
    const { host } = await show([
      variant('Half', { state: 'stale', causes: [changed], formats, staleFormats: ['pdf'] }),
      variant('Whole', { state: 'stale', causes: [changed], formats, staleFormats: ['html', 'pdf'] }),
    ]);
    const told = [...host.querySelectorAll('details > ul > li > .soft')].map((each) => each.textContent);
    expect(told.map((text) => /; only (.*)/.exec(text)?.[1]?.trim() ?? '')).toEqual(['PDF', '']);
  });

  it('says when everything is fresh, and offers nothing then', async () => {
    const { host } = await show([variant('One'), variant('Two')]);
    expect(host.textContent).toContain('All 2 deliverables are fresh.');
    expect(host.querySelector('button')).toBeNull();
    expect(host.querySelector('details')?.open).toBeFalse();
  });

  it('has a sentence for every cause', () => {
    const causes: NamedCause[] = [
      changed,
      { ...changed, from: 0 },
      { ...changed, to: 0 },
      { kind: 'recipe', part: 'design', title: '' },
      { kind: 'condition', when: 'os is mac', title: '' },
      { kind: 'slot', collection: 'tips', title: '' },
    ];
    const stamps = [{ key: 'trained', title: 'Trained staff', on: 'both' as const, from: null, when: 'os is mac' }];
    const vocabulary = { axes: [{ key: 'os', title: 'System', values: [] }], stamps };
    expect(new Set(causes.map((cause) => causeText(cause, vocabulary))).size).toBe(causes.length);
    const told = (when: string): string => causeText({ kind: 'condition', when, title: '' }, vocabulary);
    expect(told('os is mac')).toContain('System: mac is answered otherwise');
    expect(told('@stamp is trained')).toContain('stamp “Trained staff” (System: mac) is answered otherwise');
  });
});
