import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { HttpTestingController } from '@angular/common/http/testing';
import type { StoredVariant, VariantRecipe } from '@allomorph/core';
import { Lens } from '../shared/lens';
import { configure, requestsTo, signedInAs, testAxes, testProfiles, testVariant } from '../shared/testing';
import { EditorLibrary } from '../editor/editor-library';
import { VariantDialog } from './variant-dialog';

describe('The recipe of a variant', () => {
  let server: HttpTestingController;
  let fixture: ComponentFixture<VariantDialog>;
  const dialog = (): HTMLElement => document.querySelector('p-dialog, .p-dialog') as HTMLElement;
  const box = (name: string): HTMLInputElement => document.querySelector(`#variant-format-${name}`) as HTMLInputElement;
  const click = async (element: HTMLElement): Promise<void> => {
    element.click();
    await fixture.whenStable();
  };
  const save = (): void => {
    (document.querySelector('form button[type=submit]') as HTMLElement).click();
    TestBed.tick();
  };
  const recipe = { ...testVariant, formats: ['html'] } satisfies StoredVariant;

  beforeEach(async () => {
    server = configure(EditorLibrary);
    signedInAs(server, 'keeper');
    fixture = TestBed.createComponent(VariantDialog);
    fixture.componentRef.setInput('publication', 'book');
    fixture.componentRef.setInput('variant', recipe);
    TestBed.inject(Lens).variation.set({ axes: testAxes, profiles: testProfiles, designs: [], stamps: [] });
    await fixture.whenStable();
  });
  afterEach(() => {
    fixture.destroy();
    localStorage.clear();
  });

  it('offers every format by its name, and has those of the variant chosen', () => {
    expect(dialog().textContent).toContain('Web site');
    expect(dialog().textContent).toContain('Markdown');
    expect([box('html').checked, box('markdown').checked]).toEqual([true, false]);
  });

  it('keeps the formats that were chosen', async () => {
    await click(box('markdown'));
    save();
    const [request] = await requestsTo(server, `/api/variants/${recipe.id}`);
    expect((request?.request.body as VariantRecipe).formats).toEqual(['html', 'markdown']);
    request?.flush({ ...recipe, formats: ['html', 'markdown'], revision: 2 });
  });

  it('is put together with what somebody else changed meanwhile', async () => {
    await click(box('markdown'));
    save();
    const theirs = { ...recipe, title: 'Theirs', revision: 2 };
    const [refused] = await requestsTo(server, `/api/variants/${recipe.id}`);
    refused?.flush({ current: theirs }, { status: 409, statusText: 'Conflict' });
    const [again] = await requestsTo(server, `/api/variants/${recipe.id}`);
    const body = again?.request.body as VariantRecipe & { base: number };
    expect([body.base, body.title, body.formats]).toEqual([2, 'Theirs', ['html', 'markdown']]);
    again?.flush({ ...theirs, formats: body.formats, revision: 3 });
  });

  it('is not kept without a format', async () => {
    await click(box('html'));
    save();
    expect(document.body.textContent).toContain('A variant has at least one format.');
    server.expectNone(`/api/variants/${recipe.id}`);
  });
});
