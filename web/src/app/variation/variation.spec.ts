import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { HttpTestingController } from '@angular/common/http/testing';
import { MessageService } from 'primeng/api';
import type { AxisValue } from '@allomorph/core';
import { Lens } from '../shared/lens';
import type { NoticeData } from '../shared/notices';
import { OpenWindow } from '../shared/open-window';
import {
  configure,
  draftsHereOnly,
  noticesFromNow,
  signedInAs,
  testAxes,
  testProfiles,
  testVariant,
  untilDrawn,
} from '../shared/testing';
import { VariationPlace } from './variation';
import type { KeptAxis } from './vocabulary-dialog';

describe('Variation', () => {
  let server: HttpTestingController;
  let fixture: ComponentFixture<VariationPlace>;
  let host: HTMLElement;

  beforeEach(() => {
    sessionStorage.clear();
    localStorage.clear();
  });
  const open = async (role: 'writer' | 'keeper'): Promise<void> => {
    const window = { id: () => 'one', allOpen: () => Promise.resolve(new Set(['one'])) };
    server = configure(draftsHereOnly, { provide: OpenWindow, useValue: window });
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

  /** Dialogs stand at the end of the page. */
  const dialog = (): HTMLElement | null => document.querySelector('[role=dialog]');
  const button = (name: string): HTMLButtonElement | undefined =>
    [...host.querySelectorAll<HTMLButtonElement>('button')].find(
      (each) => (each.getAttribute('aria-label') ?? each.textContent?.trim()) === name,
    );
  const ask = async (name: string): Promise<void> => {
    button(name)?.click();
    await untilDrawn(document.body, () => dialog() !== null);
    await fixture.whenStable();
  };
  const field = (name: string): HTMLInputElement => {
    const label = [...document.querySelectorAll('[role=dialog] label')].find((each) => each.textContent === name);
    return document.getElementById(label?.getAttribute('for') ?? '') as HTMLInputElement;
  };
  const write = async (name: string, text: string): Promise<void> => {
    field(name).value = text;
    field(name).dispatchEvent(new Event('input'));
    await fixture.whenStable();
  };
  const press = async (name: string): Promise<void> => {
    const buttons = [...document.querySelectorAll<HTMLButtonElement>('[role=dialog] button')];
    buttons.find((each) => each.textContent?.trim() === name)?.click();
    await fixture.whenStable();
  };
  const sentTo = (url: string) => server.expectOne(({ method, url: to }) => method === 'PUT' && to === url);
  const product = testAxes[0] as KeptAxis;
  const [two, four] = product.values as [AxisValue, AxisValue];
  const meanwhile = (axis: Partial<KeptAxis>): [object, { status: number; statusText: string }] => [
    { detail: 'Somebody changed it.', current: { ...product, revision: 2, ...axis } },
    { status: 409, statusText: 'Conflict' },
  ];

  it('leaves open what is being written when the answer to something else comes', async () => {
    await open('keeper');
    cell('Dunlin 2 in Small').click();
    const slow = sentTo('/api/profiles/small');
    await ask('New axis');
    await write('Title', 'Season');
    slow.flush({ ...testProfiles[0], revision: 4 });
    await fixture.whenStable();
    expect(field('Title').value).toBe('Season');
  });

  it('puts what is changed of a value together with what another keeper changes of it', async () => {
    await open('keeper');
    const notices = noticesFromNow();
    await ask('Change Dunlin 2');
    await write('Title', 'Dunlin Two');
    await press('Save');
    sentTo('/api/axes/product').flush(...meanwhile({ values: [{ ...two, code: 'XX' }, four] }));
    const second = sentTo('/api/axes/product');
    const values = [{ ...two, title: 'Dunlin Two', code: 'XX' }, four];
    expect(second.request.body).toEqual(jasmine.objectContaining({ base: 2, values }));
    second.flush({ ...product, revision: 3, values });
    expect(notices).toEqual(['“Dunlin Two” is saved, with what somebody else changed meanwhile.']);
    await fixture.whenStable();
    expect(dialog()).toBeNull();
  });

  it('asks where two keepers gave a value another title', async () => {
    await open('keeper');
    await ask('Change Dunlin 2');
    await write('Title', 'Mine');
    await press('Save');
    sentTo('/api/axes/product').flush(...meanwhile({ values: [{ ...two, title: 'Theirs' }, four] }));
    await fixture.whenStable();
    expect(dialog()?.textContent).toContain('You both changed the title.');
    await press('Keep mine');
    const { request } = sentTo('/api/axes/product');
    expect(request.body).toEqual(jasmine.objectContaining({ base: 2, values: [{ ...two, title: 'Mine' }, four] }));
  });

  it('says that a value can not be changed that is not there any more', async () => {
    await open('keeper');
    const notices = noticesFromNow();
    await ask('Change Dunlin 2');
    await write('Title', 'Mine');
    await press('Save');
    sentTo('/api/axes/product').flush(...meanwhile({ values: [four] }));
    server.expectNone(({ method }) => method === 'PUT');
    expect(notices).toEqual(['Somebody changed it.']);
    expect(field('Title').value).toBe('Mine');
  });

  it('moves a value among those that are there by then, and back', async () => {
    await open('keeper');
    const undo: (() => void)[] = [];
    TestBed.inject(MessageService).messageObserver.subscribe((each) => {
      for (const { data } of [each].flat()) undo.push((data as NoticeData).undo);
    });
    const three = { ...four, key: 'three' };
    const order = (): readonly string[] => (sent.request.body as KeptAxis).values.map(({ key }) => key);
    button('Move Dunlin 4 up')?.click();
    let sent = sentTo('/api/axes/product');
    expect(order()).toEqual(['four', 'two']);
    sent.flush(...meanwhile({ values: [two, three, four] }));
    sent = sentTo('/api/axes/product');
    expect(order()).toEqual(['two', 'four', 'three']);
    sent.flush({ ...product, revision: 3, values: [four, two] });
    undo[0]?.();
    sent = sentTo('/api/axes/product');
    expect(order()).toEqual(['two', 'four']);
    sent.flush(...meanwhile({ values: [four, three, two] }));
    sent = sentTo('/api/axes/product');
    expect(order()).toEqual(['three', 'two', 'four']);
  });

  it('keeps what was begun and not saved until it is asked for again', async () => {
    await open('keeper');
    await ask('New axis');
    await write('Title', 'Season');
    window.dispatchEvent(new Event('pagehide'));
    fixture.destroy();
    TestBed.resetTestingModule();
    await open('keeper');
    await ask('New axis');
    await untilDrawn(document.body, () => dialog()?.textContent?.includes('what you wrote earlier') ?? false);
    expect(field('Title').value).toBe('Season');
    await press('Cancel');
    expect(Object.keys(localStorage).filter((name) => name.includes('new axis'))).toEqual([]);
  });

  it('tells that a stamp was begun earlier where its dialog was only closed', async () => {
    await open('keeper');
    await ask('New stamp');
    expect(dialog()?.textContent).not.toContain('what you wrote earlier');
    await write('Title', 'Roof only');
    document.querySelector<HTMLButtonElement>('.p-dialog-close-button')?.click();
    await untilDrawn(document.body, () => dialog() === null);
    await ask('New stamp');
    expect(dialog()?.textContent).toContain('what you wrote earlier');
    expect(field('Title').value).toBe('Roof only');
    await press('Save');
    const { request } = server.expectOne(({ method }) => method === 'PUT');
    expect(request.body).toEqual(jasmine.objectContaining({ key: 'roof-only', title: 'Roof only', base: 0 }));
  });

  it('is only read by those who may not change it', async () => {
    await open('writer');
    expect(cell('Dunlin 2 in Small').disabled).toBeTrue();
    expect(host.textContent).toContain('Keepers change the vocabulary.');
    expect([...host.querySelectorAll('.acts button')].length).toBe(0);
  });
});
