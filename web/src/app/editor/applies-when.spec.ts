import { TestBed } from '@angular/core/testing';
import { Lens } from '../shared/lens';
import { configure, testAxes } from '../shared/testing';
import { AppliesWhen } from './applies-when';
import type { LimitTarget } from './limit-targets';
import type { StoredVariant } from '@allomorph/core';

describe('Applies when', () => {
  const setUp = async (targets: readonly LimitTarget[]) => {
    configure();
    TestBed.inject(Lens).variation.set({ axes: testAxes, profiles: [], designs: [], stamps: [] });
    const fixture = TestBed.createComponent(AppliesWhen);
    const applied: { target: LimitTarget; when: string | null }[] = [];
    fixture.componentInstance.apply.subscribe((each) => applied.push(each));
    const stamped: { target: LimitTarget; stamp: string | null }[] = [];
    fixture.componentInstance.stamped.subscribe((each) => stamped.push(each));
    fixture.componentRef.setInput('targets', targets);
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const press = async (label: string): Promise<void> => {
      [...host.querySelectorAll('button')].find((button) => button.textContent?.trim() === label)?.click();
      await fixture.whenStable();
    };
    const move = async (to: readonly LimitTarget[]): Promise<void> => {
      fixture.componentRef.setInput('targets', to);
      await fixture.whenStable();
    };
    return { host, press, applied, stamped, move };
  };
  const block = (type: string, position: number, when: string | null = null): LimitTarget => ({
    kind: 'block',
    type,
    position,
    when,
    stamp: null,
  });

  it('means the item, not the paragraph in it, and lets another block be chosen', async () => {
    const { host, press, applied } = await setUp([
      block('bullet_list', 1),
      block('list_item', 2),
      block('paragraph', 3),
    ]);
    expect(host.querySelector('[aria-checked=true]')?.textContent?.trim()).toBe('list item');
    await press('bullet list');
    await press('Dunlin 2');
    await press('Apply');
    expect(applied).toEqual([{ target: block('bullet_list', 1), when: 'product is two' }]);
  });

  it('puts a condition that was used before on another block with one click', async () => {
    sessionStorage.removeItem('allomorph.recent-conditions');
    const { host, press, applied, move } = await setUp([block('paragraph', 3)]);
    await press('Dunlin 2');
    await press('Apply');
    await move([block('paragraph', 9)]);
    const [again] = host.querySelectorAll<HTMLButtonElement>('.before button');
    expect(again?.textContent).toContain('Dunlin 2');
    again?.click();
    expect(applied.at(-1)).toEqual({ target: block('paragraph', 9), when: 'product is two' });
  });

  it('counts the variants that the place is in, with what is being chosen, and not through an earlier branch', async () => {
    const variant = (title: string, profile: string) => ({ id: title, title, profile }) as unknown as StoredVariant;
    const branch = { ...block('branch', 2, null), unless: ['product is two'] } as LimitTarget;
    const { host, press, move } = await setUp([block('paragraph', 3)]);
    const lens = TestBed.inject(Lens);
    const only = (product: string) => ({ axes: { product: { default: 'out' as const, in: [product] } } });
    lens.variation.set({
      axes: testAxes,
      profiles: [
        { revision: 1, key: 'a', title: 'A', ...only('two') },
        { revision: 1, key: 'b', title: 'B', ...only('four') },
      ],
      designs: [],
      stamps: [],
    });
    lens.variants.set([variant('For two', 'a'), variant('For four', 'b'), variant('Again four', 'b')]);
    await move([block('paragraph', 4)]);
    const told = (): string => host.querySelector('.variants')?.textContent.replace(/\s+/g, ' ').trim() ?? '';
    expect(told()).toContain('In 3 of 3 variants');
    await press('Dunlin 2');
    expect(told()).toBe('In 1 of 3 variants, once applied For two');
    await move([branch, block('paragraph', 5)]);
    expect(told()).toBe('In 2 of 3 variants For fourAgain four');
  });

  it('says in words what applies, and takes it away', async () => {
    const { host, press, applied } = await setUp([block('paragraph', 3, 'market is europe')]);
    expect(host.textContent).toContain('applies only to Market: Europe');
    await press('Take away');
    expect(applied).toEqual([{ target: block('paragraph', 3, 'market is europe'), when: null }]);
  });

  it('offers nothing to apply before something was changed, or where there is no block', async () => {
    const { host } = await setUp([block('paragraph', 3)]);
    const apply = [...host.querySelectorAll('button')].find((button) => button.textContent?.trim() === 'Apply');
    expect(apply?.disabled).toBeTrue();
  });

  it('forgets what was chosen for one block when the cursor goes to another', async () => {
    const { host, press, applied, move } = await setUp([block('paragraph', 3)]);
    await press('Dunlin 2');
    await move([block('paragraph', 9)]);
    expect(host.querySelector('textarea')?.value).toBe('');
    const apply = [...host.querySelectorAll('button')].find((button) => button.textContent?.trim() === 'Apply');
    expect(apply?.disabled).toBeTrue();
    await press('Dunlin 2');
    // Typing in the same block changes nothing about what is being chosen.
    await move([block('paragraph', 9)]);
    await press('Apply');
    expect(applied).toEqual([{ target: block('paragraph', 9), when: 'product is two' }]);
  });

  it('offers the stamps that may stand there, and says what the one that does asks for', async () => {
    const { host, stamped, move } = await setUp([{ ...block('paragraph', 3), stamp: 'trained' } as LimitTarget]);
    TestBed.inject(Lens).variation.update((variation) => ({
      ...variation,
      stamps: [
        { key: 'trained', title: 'Trained staff', on: 'blocks', from: null, when: 'product is two', revision: 1 },
        { key: 'value', title: 'Set value', on: 'phrases', from: null, when: null, revision: 1 },
      ],
    }));
    await move([{ ...block('paragraph', 3), stamp: 'trained' } as LimitTarget]);
    expect(host.textContent).toContain('has no condition of its own; its stamp has one');
    expect(host.textContent).toContain('Its standing condition: Product: Dunlin 2.');
    host.querySelector<HTMLElement>('.stamp [role=combobox]')?.click();
    await new Promise((resolve) => requestAnimationFrame(resolve));
    const options = [...document.querySelectorAll<HTMLElement>('[role=option]')];
    expect(options.map((option) => option.textContent?.trim())).toEqual(['none', 'Trained staff']);
    options[0]?.click();
    expect(stamped.map(({ stamp }) => stamp)).toEqual([null]);
    await move([{ kind: 'column', position: 1, column: 0, when: null }]);
    expect(host.querySelector('.stamp')).toBeNull();
  });

  it('asks for a place where the cursor is in none', async () => {
    const { host } = await setUp([]);
    expect(host.textContent).toContain('Put the cursor in a block');
  });
});
