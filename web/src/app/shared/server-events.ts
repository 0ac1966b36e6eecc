import { Injectable } from '@angular/core';
import { addressOfRoute, routes, serverEventSchema, type ServerEvent } from '@allomorph/core';
import {
  defer,
  distinctUntilChanged,
  EMPTY,
  filter,
  fromEvent,
  map,
  Observable,
  retry,
  share,
  startWith,
  Subscription,
  switchMap,
  timer,
} from 'rxjs';

const longestWait = 30_000;
const name = 'allomorph.events';

/**
 * What the server tells while a page is open, by a connection that is made again whenever it is lost.
 * @param isFirst whether nothing can have been missed before it is made
 */
function connection(isFirst: boolean): Observable<ServerEvent> {
  return defer(() => {
    let mayHaveMissed = !isFirst;
    return new Observable<ServerEvent>((listener) => {
      const source = new EventSource(addressOfRoute(routes.events, {}));
      source.onopen = () => {
        if (mayHaveMissed) listener.next({ type: 'missed' });
        mayHaveMissed = true;
      };
      source.onmessage = (message: MessageEvent<string>) => {
        const parsed = serverEventSchema.safeParse(JSON.parse(message.data));
        if (parsed.success) listener.next(parsed.data);
      };
      // The browser makes a lost connection again by itself; it gives up where the server answers with anything but a stream,
      // as without its database or after the end of a session.
      source.onerror = () => {
        mayHaveMissed = true;
        if (source.readyState === EventSource.CLOSED) listener.error(new Error('The stream of events has ended.'));
      };
      return () => source.close();
    }).pipe(
      retry({ delay: (_, tried) => timer(Math.min(1000 * 2 ** (tried - 1), longestWait)), resetOnSuccess: true }),
    );
  });
}

/**
 * The same by one connection for all windows of a browser, which opens only six to a server: with a seventh window nothing
 * would be loaded any more. When the window that holds it goes, the next one makes it.
 */
const sharedConnection = new Observable<ServerEvent>((listener) => {
  const channel = new BroadcastChannel(name);
  channel.onmessage = ({ data }: MessageEvent<ServerEvent>) => listener.next(data);
  const leaving = new AbortController();
  const connected = new Subscription();
  const hold = (isFirst: boolean): Promise<void> => {
    connected.add(
      connection(isFirst).subscribe((event) => {
        channel.postMessage(event);
        listener.next(event);
      }),
    );
    return new Promise((resolve) => connected.add(resolve));
  };
  const { locks } = navigator;
  const lead = async (): Promise<void> => {
    const isHeld = await locks.request(
      name,
      { ifAvailable: true },
      (lock) => lock !== null && hold(true).then(() => true),
    );
    if (!isHeld && !connected.closed) await locks.request(name, { signal: leaving.signal }, () => hold(false));
  };
  // A window that goes while it waits is told so by an error.
  lead().catch(() => undefined);
  return () => {
    leaving.abort();
    connected.unsubscribe();
    channel.close();
  };
});

/**
 * The same where windows cannot agree, as browsers let them only at a safe address (https, or this machine): a window that
 * nobody sees has no connection.
 */
const connectionWhileVisible = defer(() =>
  fromEvent(document, 'visibilitychange').pipe(
    startWith(null),
    map(() => document.visibilityState === 'visible'),
    distinctUntilChanged(),
    switchMap((isVisible, turn) => (isVisible ? connection(turn === 0) : EMPTY)),
  ),
);

/** What the server tells while a page is open; one connection for all who listen. */
@Injectable({ providedIn: 'root' })
export class ServerEvents {
  readonly all: Observable<ServerEvent> = ((navigator.locks as LockManager | undefined)
    ? sharedConnection
    : connectionWhileVisible
  ).pipe(share());

  /** Events of the types that are named. */
  of<T extends ServerEvent['type']>(...types: readonly T[]): Observable<Extract<ServerEvent, { type: T }>> {
    return this.all.pipe(
      filter((event): event is Extract<ServerEvent, { type: T }> => (types as readonly string[]).includes(event.type)),
    );
  }
}
