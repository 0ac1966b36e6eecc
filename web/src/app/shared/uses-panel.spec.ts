import { TestBed } from '@angular/core/testing';
import type { Use, Uses } from '@allomorph/core';
import { configure } from './testing';
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
    TestBed.tick();
    server.expectOne('/api/components/warning/uses').flush(
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
    expect(host.textContent).toContain('These are the nearest 1.');
    expect(host.textContent).not.toContain('These are the first');
  });

  it('say so where there are none, or the server cannot be asked', async () => {
    const server = configure();
    const fixture = TestBed.createComponent(UsesPanel);
    fixture.componentRef.setInput('component', 'lonely');
    TestBed.tick();
    server.expectOne('/api/components/lonely/uses').flush(uses([]));
    await fixture.whenStable();
    expect((fixture.nativeElement as HTMLElement).textContent).toContain('Nothing refers to it yet.');
    fixture.componentRef.setInput('revision', 2);
    TestBed.tick();
    server
      .expectOne('/api/components/lonely/uses')
      .flush({ detail: 'There is no component “lonely”.' }, { status: 404, statusText: 'Not Found' });
    await fixture.whenStable();
    expect((fixture.nativeElement as HTMLElement).textContent).toContain('There is no component “lonely”.');
  });
});
