import type { ServerEvent } from '@allomorph/core';
import { firstValueFrom, Subject, type Subscription } from 'rxjs';
import { ServerEvents } from './server-events';

const made = new Subject<FakeSource>();

/** A stream of events as the browser would open it, which does what a test says. */
class FakeSource {
  onopen: () => void = () => undefined;
  onerror: () => void = () => undefined;
  onmessage: (message: { readonly data: string }) => void = () => undefined;
  readyState: number = EventSource.CONNECTING;

  constructor() {
    queueMicrotask(() => made.next(this));
  }

  tell(event: ServerEvent): void {
    this.onmessage({ data: JSON.stringify(event) });
  }

  /** The server answered with something else than a stream. */
  refuse(): void {
    this.readyState = EventSource.CLOSED;
    this.onerror();
  }

  close(): void {
    this.readyState = EventSource.CLOSED;
  }
}

const saved: ServerEvent = { type: 'component', key: 'care', revision: 2, by: '' };
const missed: ServerEvent = { type: 'missed' };

describe('What the server tells', () => {
  const source = EventSource;
  let windows: Subscription[];

  beforeEach(() => {
    windows = [];
    (window as { EventSource: unknown }).EventSource = Object.assign(FakeSource, { CLOSED: 2, CONNECTING: 0 });
  });
  afterEach(async () => {
    (window as { EventSource: unknown }).EventSource = source;
    windows.forEach((each) => each.unsubscribe());
    // What windows agree on is free again.
    const locks = navigator.locks as LockManager | undefined;
    await locks?.request('allomorph.events', () => undefined);
  });

  /** A window that listens, and what it has heard. */
  const listen = (): { readonly told: ServerEvent[]; readonly heard: Subject<void> } => {
    const [told, heard] = [[] as ServerEvent[], new Subject<void>()];
    windows.push(
      new ServerEvents().all.subscribe((event) => {
        told.push(event);
        heard.next();
      }),
    );
    return { told, heard };
  };

  it('is told again to be read anew when a connection that was lost is back', async () => {
    const opened = firstValueFrom(made);
    const { told } = listen();
    const stream = await opened;
    stream.onopen();
    stream.tell(saved);
    expect(told).toEqual([saved]);
    stream.onerror();
    stream.onopen();
    expect(told).toEqual([saved, missed]);
  });

  it('is asked for again after the server refused, which the browser would not do', async () => {
    let opened = firstValueFrom(made);
    const { told } = listen();
    const stream = await opened;
    jasmine.clock().install();
    try {
      opened = firstValueFrom(made);
      stream.refuse();
      jasmine.clock().tick(1000);
    } finally {
      jasmine.clock().uninstall();
    }
    (await opened).onopen();
    expect(told).toEqual([missed]);
  });

  it('comes to all windows by one connection, which the next window makes when the first one goes', async () => {
    let opened = firstValueFrom(made);
    const first = listen();
    const stream = await opened;
    stream.onopen();
    opened = firstValueFrom(made);
    const second = listen();
    const hears = firstValueFrom(second.heard);
    stream.tell(saved);
    await hears;
    expect([first.told, second.told]).toEqual([[saved], [saved]]);
    windows[0]?.unsubscribe();
    (await opened).onopen();
    expect(second.told).toEqual([saved, missed]);
  });

  it('is heard by a window that is seen, where windows cannot agree on one connection', async () => {
    spyOnProperty(navigator, 'locks').and.returnValue(undefined as unknown as LockManager);
    const seen = spyOnProperty(document, 'visibilityState').and.returnValue('visible');
    let opened = firstValueFrom(made);
    const { told } = listen();
    const stream = await opened;
    stream.onopen();
    expect(told).toEqual([]);
    seen.and.returnValue('hidden');
    document.dispatchEvent(new Event('visibilitychange'));
    expect(stream.readyState).toBe(EventSource.CLOSED);
    opened = firstValueFrom(made);
    seen.and.returnValue('visible');
    document.dispatchEvent(new Event('visibilitychange'));
    (await opened).onopen();
    expect(told).toEqual([missed]);
  });
});
