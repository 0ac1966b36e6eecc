import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { Lens } from '../shared/lens';
import { configure, testAxes, testProfiles } from '../shared/testing';
import { LensStrip } from './lens-strip';

describe('The lens strip', () => {
  let fixture: ComponentFixture<LensStrip>;
  let host: HTMLElement;
  let lens: Lens;

  beforeEach(async () => {
    sessionStorage.clear();
    configure();
    lens = TestBed.inject(Lens);
    lens.variation.set({ axes: testAxes, profiles: testProfiles, designs: [], stamps: [] });
    fixture = TestBed.createComponent(LensStrip);
    host = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
  });

  it('says that everything is shown, and how that changes', () => {
    expect(host.textContent).toContain('All content is shown.');
    expect(host.querySelector('.axes')).toBeNull();
  });

  it('says axis by axis what is in, and how much is out', async () => {
    lens.look('profile:large');
    lens.hidden.set({ count: 1, what: 'block' });
    await fixture.whenStable();
    expect([...host.querySelectorAll('.axes li')].map((each) => each.textContent?.replace(/\s+/g, ' ').trim())).toEqual(
      ['Product Dunlin 4', 'Market Europe'],
    );
    expect(host.querySelector('.count')?.textContent?.trim()).toBe('1 block out');
    lens.hidden.set({ count: 38, what: 'entry' });
    await fixture.whenStable();
    expect(host.querySelector('.count')?.textContent?.trim()).toBe('38 entries out');
    lens.hidden.set(null);
    await fixture.whenStable();
    expect(host.querySelector('.count')).toBeNull();
  });
});
