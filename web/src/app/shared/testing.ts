import { provideHttpClient, withInterceptors, type HttpInterceptorFn } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting, type TestRequest } from '@angular/common/http/testing';
import { effect, provideZonelessChangeDetection, type EnvironmentProviders, type Provider } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { ConfirmationService, MessageService } from 'primeng/api';
import { firstValueFrom, Subject, type Observable } from 'rxjs';
import {
  componentFrom,
  newRecipe,
  ownSettingsSchema,
  type Axis,
  type Component,
  type Revised,
  type Role,
  type ServerEvent,
  type StoredProfile,
  type StoredVariant,
} from '@allomorph/core';
import { DraftsOnServer } from './drafts-on-server';
import { ServerEvents } from './server-events';
import { Session } from './session';

/** What tests of the interface share: a server that answers as it is told, and a small vocabulary. */

/** Says that the interface has asked for something. */
const asked = new Subject<void>();
const sayAsked: HttpInterceptorFn = (request, next) => {
  queueMicrotask(() => asked.next());
  return next(request);
};

export function configure(...more: (Provider | EnvironmentProviders)[]): HttpTestingController {
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideHttpClient(withInterceptors([sayAsked])),
      provideHttpClientTesting(),
      provideRouter([]),
      MessageService,
      ConfirmationService,
      ...more,
    ],
  });
  return TestBed.inject(HttpTestingController);
}

/** No draft is kept on the server. */
export const draftsHereOnly: Provider = {
  provide: DraftsOnServer,
  useValue: { read: () => Promise.resolve([]), keep: () => undefined, drop: () => undefined, has: () => false },
};

/** What notices say from now on. */
export function noticesFromNow(): readonly string[] {
  const said: string[] = [];
  TestBed.inject(MessageService).messageObserver.subscribe((each) => {
    for (const { summary } of [each].flat()) said.push(summary ?? '');
  });
  return said;
}

/** What the server tells, in place of its stream. */
export const serverTells = (events: Observable<ServerEvent>): Provider => ({
  provide: ServerEvents,
  useFactory: () => Object.assign(new ServerEvents(), { all: events }),
});

/** Signs somebody in before anything is shown. */
export function signedInAs(server: HttpTestingController, role: Role): void {
  TestBed.inject(Session).load().subscribe();
  const person = { id: '', name: 'A', signIn: 'a', role, settings: ownSettingsSchema.parse({}) };
  server.expectOne('/api/session').flush({ person, workspace: 'W' });
}

/**
 * Waits until the interface asks for something, as it may wait for a pause of the writer first.
 * @returns the requests for the address that are open and were not taken back, at least one
 */
export async function requestsTo(server: HttpTestingController, url: string): Promise<readonly TestRequest[]> {
  for (;;) {
    TestBed.tick();
    const open = server.match((request) => request.url === url).filter(({ cancelled }) => !cancelled);
    if (open.length > 0) return open;
    await firstValueFrom(asked);
  }
}

/** Waits until what signals say is so. */
export function until(isSo: () => boolean): Promise<void> {
  return new Promise((resolve) => {
    const watching = TestBed.runInInjectionContext(() =>
      effect(() => {
        if (!isSo()) return;
        resolve();
        queueMicrotask(() => watching.destroy());
      }),
    );
  });
}

/** Waits until something is drawn, or no longer, inside an element. */
export function untilDrawn(host: Element, isSo: () => boolean): Promise<void> {
  return new Promise((resolve) => {
    const look = (): void => {
      if (!isSo()) return;
      watching.disconnect();
      resolve();
    };
    const watching = new MutationObserver(look);
    watching.observe(host, { childList: true, subtree: true, attributes: true, characterData: true });
    look();
  });
}

export const component = (key: string, kind: Component['kind'], body: Component['body'], revision = 1): Component =>
  componentFrom({ key, kind, title: `The ${key}`, revision, body });

const value = (key: string, title: string, colour: number) => ({
  key,
  title,
  code: key.slice(0, 2),
  colour,
  pattern: 0,
});

export const testAxes: readonly (Axis & Revised)[] = [
  {
    revision: 1,
    key: 'product',
    title: 'Product',
    values: [value('two', 'Dunlin 2', 0), value('four', 'Dunlin 4', 1)],
  },
  {
    revision: 1,
    key: 'market',
    title: 'Market',
    values: [value('europe', 'Europe', 2), value('america', 'America', 3)],
  },
];

export const testProfiles: readonly (StoredProfile & Revised)[] = [
  { revision: 3, key: 'small', title: 'Small', axes: { product: { default: 'out', in: ['two'] } } },
  {
    revision: 1,
    key: 'large',
    title: 'Large',
    axes: { product: { default: 'out', in: ['four'] }, market: { default: 'out', in: ['europe'] } },
  },
];

export const testVariant: StoredVariant = {
  ...newRecipe,
  id: '00000000-0000-4000-8000-000000000001',
  publication: 'book',
  title: 'Large, Europe',
  profile: 'large',
  language: 'de',
  revision: 1,
};
