import { TestBed } from '@angular/core/testing';
import type { ImportNote } from '@allomorph/core';
import { ImportNotes } from './import-notes';

describe('The notes of an import', () => {
  const show = (notes: readonly ImportNote[]): HTMLElement => {
    const fixture = TestBed.createComponent(ImportNotes);
    fixture.componentRef.setInput('notes', notes);
    fixture.detectChanges();
    return fixture.nativeElement as HTMLElement;
  };
  const note = (kind: ImportNote['kind'], line: number): ImportNote => ({ kind, message: 'M', file: 'a.xml', line });

  it('stand by kind with their count, the most frequent kind first', () => {
    const shown = show([note('repeated id', 1), note('unknown element', 2), note('unknown element', 3)]);
    const texts = (selector: string) => [...shown.querySelectorAll(selector)].map((each) => each.textContent);
    expect(texts('.what')).toEqual([
      'Elements that are not known here: their text was kept',
      'Ids that are used more than once',
    ]);
    expect(texts('.count')).toEqual(['2', '1']);
    expect(shown.querySelectorAll('details')[0]?.querySelectorAll('li').length).toBe(2);
  });

  it('say how many there are beyond those that are drawn', () => {
    const shown = show(Array.from({ length: 250 }, (_, at) => note('lost reference', at + 1)));
    expect(shown.querySelectorAll('li').length).toBe(200);
    expect(shown.querySelector('.more')?.textContent).toBe('and 50 more');
  });
});
