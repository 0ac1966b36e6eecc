import type { HttpTestingController } from '@angular/common/http/testing';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { ServerEvent } from '@allomorph/core';
import { Subject } from 'rxjs';
import { ImportDialog } from './import-dialog';
import { PublicationsPlace } from './publications';
import {
  configure,
  draftsHereOnly,
  noticesFromNow,
  requestsTo,
  serverTells,
  signedInAs,
  untilDrawn,
} from '../shared/testing';

/** Dialogs stand at the end of the page. */
const dialog = (): HTMLElement | null => document.querySelector('[role=dialog]');
const press = (within: Element | null, name: string): void =>
  [...(within?.querySelectorAll('button') ?? [])].find((each) => each.textContent?.trim() === name)?.click();
const write = (field: string, text: string): void => {
  const input = document.querySelector<HTMLInputElement>(field);
  if (!input) throw new Error(field);
  input.value = text;
  input.dispatchEvent(new Event('input'));
};

describe('Publications', () => {
  let server: HttpTestingController;
  let fixture: ComponentFixture<PublicationsPlace>;
  let told: Subject<ServerEvent>;

  beforeEach(async () => {
    told = new Subject();
    server = configure(draftsHereOnly, serverTells(told));
    signedInAs(server, 'keeper');
    fixture = TestBed.createComponent(PublicationsPlace);
    fixture.detectChanges();
    TestBed.tick();
    server.expectOne('/api/publications').flush([]);
    await fixture.whenStable();
    press(fixture.nativeElement as HTMLElement, 'New publication');
    await untilDrawn(document.body, () => dialog() !== null);
  });

  it('are made once, however often one says so before the answer', async () => {
    write('#publication-title', 'Guide');
    await fixture.whenStable();
    const form = dialog()?.querySelector('form');
    for (let times = 0; times < 3; times += 1) form?.dispatchEvent(new Event('submit'));
    expect(server.match('/api/publications').length).toBe(1);
  });

  it('are read anew when one is made, deleted or brought back elsewhere', async () => {
    told.next({ type: 'variation' });
    const [again] = await requestsTo(server, '/api/publications');
    expect(again?.request.method).toBe('GET');
  });

  it('say why they cannot be made', async () => {
    press(dialog(), 'Create');
    await fixture.whenStable();
    expect(dialog()?.textContent).toContain('Give it a title.');
    write('#publication-title', 'Guide');
    await fixture.whenStable();
    press(dialog(), 'Create');
    server
      .expectOne('/api/publications')
      .flush({ detail: 'There is already one.' }, { status: 409, statusText: 'Conflict' });
    await fixture.whenStable();
    expect(dialog()?.textContent).toContain('There is already one.');
  });
});

describe('The dialog for importing', () => {
  it('takes no file that is not seen to be chosen any more', async () => {
    const server = configure();
    const fixture = TestBed.createComponent(ImportDialog);
    const show = async (isOpen: boolean): Promise<void> => {
      fixture.componentRef.setInput('open', isOpen);
      await untilDrawn(document.body, () => (dialog() !== null) === isOpen);
      await fixture.whenStable();
    };
    await show(true);
    const files = new DataTransfer();
    files.items.add(new File(['x'], 'book.zip'));
    const input = document.querySelector<HTMLInputElement>('#import-file');
    if (input) input.files = files.files;
    input?.dispatchEvent(new Event('change'));
    write('#import-title', 'Guide');
    await show(false);
    await show(true);
    press(dialog(), 'Import');
    await fixture.whenStable();
    expect(dialog()?.textContent).toContain('Choose a ZIP file');
    // One that fails while the dialog is closed is told all the same.
    const notices = noticesFromNow();
    const again = document.querySelector<HTMLInputElement>('#import-file');
    if (again) again.files = files.files;
    again?.dispatchEvent(new Event('change'));
    press(dialog(), 'Import');
    await fixture.whenStable();
    const [sent] = server.match(({ method }) => method === 'POST');
    await show(false);
    sent?.flush({ detail: 'It holds no book.' }, { status: 422, statusText: 'Unprocessable Content' });
    expect(notices).toEqual(['It holds no book.']);
    server.verify();
  });
});
