import type { OutlineEntry } from '@allomorph/core';
import { OutlineHistory } from './outline-history';

const outline = (...ids: string[]): readonly OutlineEntry[] => ids.map((id) => ({ id, topic: id }));

describe('The history of an outline', () => {
  it('undoes and does again, and says what', () => {
    const history = new OutlineHistory();
    const [one, two, three] = [outline('a'), outline('a', 'b'), outline('b')];
    history.keep('Add', one, two);
    history.keep('Remove', two, three);
    expect([history.undoes(), history.redoes()]).toEqual(['Remove', '']);
    expect(history.undo(three)).toBe(two);
    // Saved and read again it is the same outline, though another object.
    expect(history.undo(outline('a', 'b'))).toBe(one);
    expect([history.undoes(), history.redoes()]).toEqual(['', 'Add']);
    expect(history.redo(one)).toBe(two);
    history.keep('Other', two, one);
    expect(history.redoes()).toBe('');
  });

  it('takes nothing back that somebody else changed', () => {
    const history = new OutlineHistory();
    history.keep('Add', outline('a'), outline('a', 'b'));
    expect(history.undo(outline('a', 'b', 'theirs'))).toBeNull();
    expect(history.undoes()).toBe('');
  });

  it('takes a title that was typed as one act, and the next title as another one', () => {
    const history = new OutlineHistory();
    const [none, t, ti, other] = [outline('a'), [{ id: 'a', title: 'T' }], [{ id: 'a', title: 'Ti' }], outline('b')];
    history.keep('Title', none, t, 'title a');
    history.keep('Title', t, ti, 'title a');
    history.keep('Title', ti, other, 'title b');
    expect(history.undo(other)).toBe(ti);
    expect(history.undo(ti)).toBe(none);
  });
});
