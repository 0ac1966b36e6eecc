import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { HttpTestingController } from '@angular/common/http/testing';
import { Lens } from '../shared/lens';
import { configure, signedInAs, testAxes, testProfiles, testVariant } from '../shared/testing';
import { VariationPlace } from './variation';

describe('Variation', () => {
  let server: HttpTestingController;
  let fixture: ComponentFixture<VariationPlace>;
  let host: HTMLElement;

  const open = async (role: 'writer' | 'keeper'): Promise<void> => {
    sessionStorage.clear();
    server = configure();
    signedInAs(server, role);
    TestBed.inject(Lens).variation.set({ axes: testAxes, profiles: testProfiles, designs: [], stamps: [] });
    TestBed.inject(Lens).variants.set([testVariant]);
    fixture = TestBed.createComponent(VariationPlace);
    host = fixture.nativeElement as HTMLElement;
    fixture.detectChanges();
    TestBed.tick();
    server.expectOne('/api/values/uses').flush([{ axis: 'product', value: 'two', components: 3 }]);
    if (role === 'keeper') server.expectOne('/api/vocabulary-acts').flush([]);
    await fixture.whenStable();
  };
  const cell = (name: string): HTMLButtonElement => {
    const found = [...host.querySelectorAll<HTMLButtonElement>('.state[aria-label]')].find((each) =>
      each.getAttribute('aria-label')?.startsWith(name),
    );
    if (!found) throw new Error(name);
    return found;
  };
  const saved = (): unknown => {
    const { request } = server.expectOne((each) => each.method === 'PUT');
    return (request.body as { axes: Record<string, unknown> }).axes;
  };

  it('tells own marks from inherited states, and counts the variants of a profile', async () => {
    await open('keeper');
    expect(cell('Dunlin 2 in Small').getAttribute('aria-label')).toBe('Dunlin 2 in Small: in, own mark');
    expect(cell('Dunlin 4 in Small').getAttribute('aria-label')).toBe('Dunlin 4 in Small: out, inherited');
    expect(cell('Europe in Small').getAttribute('aria-label')).toBe('Europe in Small: in, inherited');
    const heads = [...host.querySelectorAll('thead .profile')].map((each) =>
      each.textContent?.replace(/\s+/g, ' ').trim(),
    );
    expect(heads).toEqual([jasmine.stringContaining('0 variants'), jasmine.stringContaining('1 variant')]);
  });

  it('says how much of the library names each value', async () => {
    await open('writer');
    const uses = (key: string): string | undefined =>
      [...host.querySelectorAll('th')]
        .find((each) => each.querySelector('.mono')?.textContent === key)
        ?.querySelector('.uses')
        ?.textContent?.trim();
    expect([uses('two'), uses('four')]).toEqual(['in 3', 'never named']);
  });

  it('turns a mark from in to out to none', async () => {
    await open('keeper');
    cell('Dunlin 2 in Small').click();
    expect(saved()).toEqual({ product: { default: 'out', in: [], out: ['two'] } });
    cell('Dunlin 4 in Small').click();
    expect(saved()).toEqual({ product: { default: 'out', in: ['two', 'four'], out: [] } });
  });

  it('turns the default of an axis, also one that the profile did not mention', async () => {
    await open('keeper');
    const [first] = [...host.querySelectorAll<HTMLButtonElement>('tbody:nth-of-type(2) .default')];
    expect(first?.textContent?.trim()).toBe('default in');
    first?.click();
    expect(saved()).toEqual({ product: { default: 'out', in: ['two'] }, market: { default: 'out', in: [], out: [] } });
  });

  it('puts a change on top of what somebody else changed meanwhile', async () => {
    await open('keeper');
    cell('Dunlin 2 in Small').click();
    const first = server.expectOne('/api/profiles/small');
    expect((first.request.body as { base: number }).base).toBe(3);
    const theirs = {
      key: 'small',
      title: 'Small ones',
      revision: 4,
      axes: { product: { default: 'out', in: ['two', 'four'] }, market: { default: 'in', out: ['america'] } },
    };
    first.flush({ detail: 'Somebody changed it.', current: theirs }, { status: 409, statusText: 'Conflict' });
    const { request } = server.expectOne('/api/profiles/small');
    expect(request.body).toEqual({
      key: 'small',
      title: 'Small ones',
      base: 4,
      axes: { product: { default: 'out', in: ['four'], out: ['two'] }, market: { default: 'in', out: ['america'] } },
    });
  });

  it('is only read by those who may not change it', async () => {
    await open('writer');
    expect(cell('Dunlin 2 in Small').disabled).toBeTrue();
    expect(host.textContent).toContain('Keepers change the vocabulary.');
    expect([...host.querySelectorAll('.acts button')].length).toBe(0);
  });
});
