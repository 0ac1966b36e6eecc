import type { HttpTestingController } from '@angular/common/http/testing';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { OutlineEntry, ServerEvent, StoredPublication } from '@allomorph/core';
import { MessageService } from 'primeng/api';
import { firstValueFrom, Subject } from 'rxjs';
import { configure, requestsTo, serverTells, signedInAs, untilDrawn } from '../shared/testing';
import { PublicationPlace } from './publication';

const outline: readonly OutlineEntry[] = [
  { id: 'e1', title: 'One' },
  { id: 'e2', title: 'Two' },
];
const book: StoredPublication = {
  key: 'book',
  title: 'The Book',
  revision: 1,
  values: {},
  entries: outline,
};
const away = { status: 503, statusText: 'Service Unavailable' };

describe('A publication', () => {
  let events: Subject<ServerEvent>;
  let server: HttpTestingController;
  let fixture: ComponentFixture<PublicationPlace>;
  let host: HTMLElement;

  const open = (): void => {
    sessionStorage.clear();
    events = new Subject();
    server = configure(serverTells(events));
    signedInAs(server, 'keeper');
    fixture = TestBed.createComponent(PublicationPlace);
    fixture.componentRef.setInput('key', 'book');
    host = fixture.nativeElement as HTMLElement;
    // Entries are drawn where they come into view.
    host.style.height = '40rem';
    document.body.append(host);
    TestBed.tick();
  };
  const answer = async (): Promise<void> => {
    for (const request of await requestsTo(server, '/api/publications/book')) request.flush(book);
    await untilDrawn(host, () => host.querySelector('h1')?.textContent === book.title);
  };
  const titleField = (): string | undefined => host.querySelector<HTMLInputElement>('input.book-title')?.value;
  const retitle = (title: string): void => {
    const field = host.querySelector<HTMLInputElement>('input.book-title');
    if (!field) throw new Error('There is no title.');
    field.value = title;
    field.dispatchEvent(new Event('input'));
  };
  const saveElsewhere = (revision: number): void => events.next({ type: 'publication', key: 'book', revision, by: '' });
  afterEach(() => host.remove());

  it('stays on the page with what is written when it cannot be read anew', async () => {
    open();
    await answer();
    retitle('The Other Book');
    saveElsewhere(2);
    const said = firstValueFrom(TestBed.inject(MessageService).messageObserver);
    for (const request of await requestsTo(server, '/api/publications/book'))
      request.flush({ detail: 'The database is away for a moment.' }, away);
    expect(await said).toEqual(jasmine.objectContaining({ summary: 'The database is away for a moment.' }));
    TestBed.tick();
    expect(titleField()).toBe('The Other Book');
    expect(host.querySelector('al-not-opened')).toBeNull();
  });

  it('says why it does not open, and opens when it is tried again', async () => {
    open();
    for (const request of await requestsTo(server, '/api/publications/book'))
      request.flush({ detail: 'The database is away for a moment.' }, away);
    await untilDrawn(host, () => host.querySelector('al-not-opened') !== null);
    expect(host.querySelectorAll('h1').length).toBe(1);
    expect(host.textContent).toContain('The database is away for a moment.');
    host.querySelector<HTMLButtonElement>('al-not-opened button')?.click();
    await answer();
    expect(host.querySelector('al-not-opened')).toBeNull();
  });
});
