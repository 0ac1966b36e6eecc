import { TestBed } from '@angular/core/testing';
import { OpenWindow } from './open-window';

describe('An open window', () => {
  const another = (): OpenWindow => TestBed.runInInjectionContext(() => new OpenWindow());

  it('has a name of its own, also where the browser made it as a copy of another', async () => {
    sessionStorage.removeItem('allomorph.window');
    const first = another();
    expect((await first.allOpen()).has(first.id())).toBeTrue();
    const copied = first.id();
    // A copy begins with what the first window noted for itself.
    const copy = another();
    const open = await copy.allOpen();
    expect(copy.id()).not.toBe(copied);
    expect([open.has(copied), open.has(copy.id())]).toEqual([true, true]);
  });

  it('goes without knowing of others where the browser cannot tell', async () => {
    spyOnProperty(navigator, 'locks').and.returnValue(undefined as unknown as LockManager);
    expect((await another().allOpen()).size).toBe(0);
  });
});
