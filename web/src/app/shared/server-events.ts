import { Injectable } from '@angular/core';
import { addressOfRoute, routes, serverEventSchema, type ServerEvent } from '@allomorph/core';
import { filter, Observable, share } from 'rxjs';

/** What the server tells while a page is open; one connection for all who listen. */
@Injectable({ providedIn: 'root' })
export class ServerEvents {
  readonly all: Observable<ServerEvent> = new Observable<ServerEvent>((listener) => {
    const source = new EventSource(addressOfRoute(routes.events, {}));
    source.onmessage = (message: MessageEvent<string>) => {
      const parsed = serverEventSchema.safeParse(JSON.parse(message.data));
      if (parsed.success) listener.next(parsed.data);
    };
    return () => source.close();
  }).pipe(share());

  of<T extends ServerEvent['type']>(type: T): Observable<Extract<ServerEvent, { type: T }>> {
    return this.all.pipe(filter((event): event is Extract<ServerEvent, { type: T }> => event.type === type));
  }
}
