import { TestBed } from '@angular/core/testing';
import { configure } from '../shared/testing';
import { RowActs } from './row-acts';

describe('The acts of a row', () => {
  it('say what they do and to what, and do it', async () => {
    configure();
    const done: string[] = [];
    const act = (icon: string, text: string) => ({ icon, text, act: () => done.push(text) });
    const fixture = TestBed.createComponent(RowActs);
    fixture.componentRef.setInput('acts', [act('pencil', 'Rename Large'), act('trash', 'Delete Large')]);
    await fixture.whenStable();
    const buttons = [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')];
    expect(buttons.map((button) => [button.title, button.ariaLabel])).toEqual([
      ['Rename Large', 'Rename Large'],
      ['Delete Large', 'Delete Large'],
    ]);
    expect(buttons.map((button) => button.querySelector('i')?.className)).toEqual(['pi pi-pencil', 'pi pi-trash']);
    buttons[1]?.click();
    expect(done).toEqual(['Delete Large']);
  });
});
