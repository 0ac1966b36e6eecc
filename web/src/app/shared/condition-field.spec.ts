import { provideHttpClient } from '@angular/common/http';
import { provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { ConditionField } from './condition-field';
import { Lens } from './lens';

describe('The condition field', () => {
  let fixture: ComponentFixture<ConditionField>;
  let host: HTMLElement;
  let emitted: (string | null)[];

  const button = (label: string): HTMLButtonElement => {
    const found = [...host.querySelectorAll('button')].find((each) => each.textContent?.trim() === label);
    if (!found) throw new Error(`No button ${label}`);
    return found;
  };
  const click = async (label: string): Promise<void> => {
    button(label).click();
    await fixture.whenStable();
  };
  const type = async (text: string): Promise<void> => {
    const area = host.querySelector('textarea') as HTMLTextAreaElement;
    area.value = text;
    area.dispatchEvent(new Event('input'));
    await fixture.whenStable();
  };

  beforeEach(async () => {
    TestBed.configureTestingModule({
      providers: [provideZonelessChangeDetection(), provideHttpClient(), provideHttpClientTesting()],
    });
    TestBed.inject(Lens).variation.set({
      axes: [
        {
          revision: 1,
          key: 'product',
          title: 'Product',
          values: ['two', 'four'].map((key) => ({ key, title: key, code: key, colour: 0, pattern: 0 })),
        },
        {
          revision: 1,
          key: 'market',
          title: 'Market',
          values: [{ key: 'europe', title: 'europe', code: 'EU', colour: 0, pattern: 0 }],
        },
      ],
      profiles: [],
      designs: [],
      stamps: [],
    });
    fixture = TestBed.createComponent(ConditionField);
    emitted = [];
    fixture.componentInstance.changed.subscribe((when) => emitted.push(when));
    await fixture.whenStable();
    host = fixture.nativeElement as HTMLElement;
  });

  it('writes what is clicked as text', async () => {
    await click('two');
    await click('europe');
    await click('four');
    expect(emitted.at(-1)).toBe('product is two, four and market is europe');
    await click('two');
    await click('four');
    await click('europe');
    expect(emitted.at(-1)).toBeNull();
  });

  it('shows what is typed as buttons', async () => {
    await type('product is four');
    expect(button('four').getAttribute('aria-pressed')).toBe('true');
    expect(button('two').getAttribute('aria-pressed')).toBe('false');
    await click('any of');
    expect(emitted.at(-1)).toBe('not product is four');
  });

  it('says what is wrong and hands nothing on that cannot be read', async () => {
    await type('product is');
    expect(host.querySelector('[role=alert]')?.textContent).toContain('Expected a value, not the end. (at sign 11)');
    expect(emitted).toEqual([]);
    await type('product is for');
    expect(host.textContent).toContain(
      'The value “for” of the axis “product” is not defined. Nearest defined: “four”.',
    );
  });

  it('offers the shorter expression, and says what never or always holds', async () => {
    await type('product is two or product is four');
    expect(host.textContent).toContain('Shorter, and the same:');
    await click('product is two, four');
    expect(emitted.at(-1)).toBe('product is two, four');
    expect(host.textContent).not.toContain('Shorter');
    await type('product is two and not product is two');
    expect(host.textContent).toContain('This can never hold');
    await type('product is two or not product is two');
    expect(host.textContent).toContain('This always holds');
  });

  it('leaves alternatives across axes to the text', async () => {
    await type('product is two or market is europe');
    expect(host.textContent).toContain('change it as text');
    expect(emitted.at(-1)).toBe('product is two or market is europe');
  });
});
