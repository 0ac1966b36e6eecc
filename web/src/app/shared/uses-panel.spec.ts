import { TestBed } from '@angular/core/testing';
import type { Use, Uses } from '@allomorph/core';
import { configure, requestsTo } from './testing';
import { UsesPanel } from './uses-panel';

const use = (more: Partial<Use>): Use => ({
  sourceKind: 'component',
  source: 'page',
  title: 'A page',
  componentKind: 'topic',
  kind: 'placement',
  place: 'b1',
  held: null,
  through: [],
  ...more,
});

const uses = (direct: readonly Use[], further: readonly Use[] = [], more: Partial<Uses> = {}): Uses => ({
  direct,
  directTotal: direct.length,
  further,
  furtherTotal: further.length,
  ...more,
});

describe('The uses of a component', () => {
  it('lead to the place, direct ones apart from those through others', async () => {
    const server = configure();
    const fixture = TestBed.createComponent(UsesPanel);
    fixture.componentRef.setInput('component', 'warning');
    const [asked] = await requestsTo(server, '/api/components/warning/uses');
    asked?.flush(
      uses(
        [
          use({ held: 3 }),
          use({ source: 'name', title: 'Name', componentKind: 'variable', kind: 'variable', place: null }),
        ],
        [
          use({
            sourceKind: 'publication',
            source: 'book',
            title: 'Book',
            componentKind: null,
            kind: 'outline entry',
            place: 'e4',
            through: [{ key: 'page', title: 'A page' }],
          }),
        ],
        { furtherTotal: 12_345 },
      ),
    );
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const links = [...host.querySelectorAll('a')].map((link) => link.getAttribute('href'));
    expect(links).toEqual(['/edit/page?block=b1', '/variables?key=name', '/publications/book?entry=e4']);
    expect(host.querySelector('.direct')?.textContent).toContain('placement, held at revision 3');
    expect(host.querySelector('.further')?.textContent).toContain('outline entry, through “A page”');
    expect(host.textContent).toContain('12,345');
    expect(host.querySelector('.further')?.textContent).toContain('Reading more …');
    expect(host.querySelector('.direct')?.textContent).not.toContain('Reading more …');
  });

  it('go on being read, and are looked through where there are many', async () => {
    const server = configure();
    const fixture = TestBed.createComponent(UsesPanel);
    fixture.componentRef.setInput('component', 'warning');
    const many = Array.from({ length: 100 }, (_, at) => use({ source: `t${at}`, title: `Topic ${at}` }));
    for (const request of await requestsTo(server, '/api/components/warning/uses'))
      request.flush(uses(many, [], { directTotal: 5000 }));
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    document.body.append(host);
    // With every frame: what earlier tests leave behind may move the page while it is drawn.
    let frame = requestAnimationFrame(function toTheEnd() {
      host.querySelector('.direct li:last-child')?.scrollIntoView();
      frame = requestAnimationFrame(toTheEnd);
    });
    const [next] = await requestsTo(server, '/api/components/warning/uses');
    cancelAnimationFrame(frame);
    expect(next?.request.params.get('direct')).toBe('100');
    next?.flush(uses([use({ title: 'The next' })], [], { directTotal: 5000 }));
    await fixture.whenStable();
    expect(host.querySelectorAll('.direct a').length).toBe(101);
    const find = host.querySelector<HTMLInputElement>('input[type=search]');
    if (find) find.value = 'rain';
    find?.dispatchEvent(new Event('input'));
    const asked = await requestsTo(server, '/api/components/warning/uses');
    expect(asked.at(-1)?.request.params.get('find')).toBe('rain');
    host.remove();
  });

  it('say so where there are none, or the server cannot be asked', async () => {
    const server = configure();
    const fixture = TestBed.createComponent(UsesPanel);
    fixture.componentRef.setInput('component', 'lonely');
    for (const request of await requestsTo(server, '/api/components/lonely/uses')) request.flush(uses([]));
    await fixture.whenStable();
    expect((fixture.nativeElement as HTMLElement).textContent).toContain('Nothing refers to it yet.');
    fixture.componentRef.setInput('revision', 2);
    for (const request of await requestsTo(server, '/api/components/lonely/uses'))
      request.flush({ detail: 'There is no component “lonely”.' }, { status: 404, statusText: 'Not Found' });
    await fixture.whenStable();
    expect((fixture.nativeElement as HTMLElement).textContent).toContain('There is no component “lonely”.');
  });
});
