import { checkBody, type ContentNode, type Recording } from '@allomorph/core';
import { undo } from 'prosemirror-history';
import { NodeSelection, TextSelection } from 'prosemirror-state';
import { EditorView } from 'prosemirror-view';
import { untilDrawn } from '../shared/testing';
import { editingState } from './editing-state';
import type { TakeIn } from './picture-files';
import { vocabulary } from './testing';
import { notationOf, stateOf } from './testing-notation';

describe('Pictures and recordings that are pasted or dropped', () => {
  let place: HTMLElement;
  let view: EditorView;
  /** Lets the library answer for the file that came first. */
  let answers: ((key: string | null) => void)[] = [];
  let asked: () => void = () => undefined;

  const open = (notation: string): void => {
    answers = [];
    const takeIn: TakeIn = () =>
      new Promise((resolve) => {
        answers.push(resolve);
        asked();
      });
    const keepRecording = ({ name, type }: File): Promise<Recording> =>
      Promise.resolve({ digest: 'a'.repeat(64), mediaType: type, name });
    view = new EditorView(place, {
      state: stateOf(notation, (doc) =>
        editingState(
          doc.toJSON() as ContentNode,
          { selector: null, vocabulary, mode: 'ghost' },
          { openInsertMenu: () => undefined, files: { takeIn, keepRecording } },
        ),
      ),
    });
  };
  const carrying = (files: readonly string[], html = ''): DataTransfer => {
    const data = new DataTransfer();
    for (const name of files)
      data.items.add(new File(['x'], name, { type: types[name.split('.')[1] ?? ''] ?? 'image/png' }));
    if (html !== '') data.setData('text/html', html);
    return data;
  };
  const types: Readonly<Record<string, string>> = { mp4: 'video/mp4', mp3: 'audio/mpeg' };
  const paste = (data: DataTransfer): void => {
    view.dom.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  };
  /** The library answers, and what follows from it has been done. */
  const answer = async (...keys: readonly (string | null)[]): Promise<void> => {
    for (const key of keys) {
      if (answers.length === 0) await new Promise<void>((resolve) => (asked = resolve));
      answers.shift()?.(key);
      await new Promise((resolve) => setTimeout(resolve));
    }
  };

  beforeEach(() => {
    place = document.createElement('div');
    document.body.append(place);
  });
  afterEach(() => {
    view.destroy();
    place.remove();
  });

  it('stand in a figure where they were put, however much is written meanwhile, and are selected', async () => {
    open('p{one|} p{two}');
    paste(carrying(['mast.png']));
    expect(view.dom.querySelector('.taking-in')?.textContent).toBe('Taking in “mast.png” …');
    view.dispatch(view.state.tr.insertText('before ', 4));
    await answer('photo');
    expect(notationOf(view.state)).toBe('p{before one} fig{<pic{} cap{}} p{two}');
    expect(view.state.selection instanceof NodeSelection).toBeTrue();
    expect(view.dom.querySelector('.taking-in')).toBeNull();
    expect(checkBody(view.state.doc.toJSON() as ContentNode)).toEqual([]);
    undo(view.state, view.dispatch);
    expect(notationOf(view.state)).toContain('one');
    expect(notationOf(view.state)).not.toContain('fig');
  });

  it('stand in figures of their own, in their order, in place of an empty paragraph', async () => {
    open('p{|}');
    paste(carrying(['a.png', 'b.png']));
    await answer('first', 'second');
    const shown: unknown[] = [];
    view.state.doc.descendants((node) => {
      if (node.type.name === 'picture') shown.push(node.attrs['component']);
    });
    expect(shown).toEqual(['first', 'second']);
    expect(view.state.doc.childCount).toBe(3);
  });

  it('leave nothing where the library takes none', async () => {
    open('p{one|}');
    paste(carrying(['broken.png']));
    await answer(null);
    expect(notationOf(view.state)).toBe('p{one|}');
    expect(view.dom.querySelector('.taking-in')).toBeNull();
  });

  it('are not meant where words were copied with a picture of them', async () => {
    open('p{|}');
    paste(carrying(['cells.png'], '<p>words</p>'));
    await answer();
    expect(answers.length).toBe(0);
    expect(notationOf(view.state)).toBe('p{words|}');
  });

  it('are taken out of pasted markup, in figures with their captions, out of the lines that they were in', async () => {
    open('p{|}');
    const data = 'data:image/png;base64,AAAA';
    const other = 'data:image/png;base64,BBBB';
    paste(
      carrying(
        [],
        `<p>Before <img src="${data}" alt="Mast"> after</p>` +
          `<figure><img src="${other}"><img src="${data}"><figcaption>Two</figcaption></figure>` +
          '<p><img src="https://elsewhere.example/x.png" alt="far"></p>',
      ),
    );
    await answer('one', 'two');
    await answer();
    expect(notationOf(view.state)).toBe('p{Before after} fig{picture{}} fig{picture{} picture{} cap{Two}} p{far|}');
    const shown: unknown[] = [];
    view.state.doc.descendants((node) => {
      if (node.type.name === 'picture') shown.push(node.attrs['component']);
    });
    expect(shown).toEqual(['one', 'two', 'one']);
    expect(checkBody(view.state.doc.toJSON() as ContentNode)).toEqual([]);
  });

  it('are left out where their data is broken, and what came with them stays where it was pasted', async () => {
    open('p{one|} p{two}');
    paste(
      carrying(
        [],
        '<p>new</p><p><img src="data:image/png;base64,%%%" alt="lost"></p><p><img src="data:image/png;base64,AAAA"></p>',
      ),
    );
    const end = view.state.doc.content.size - 1;
    view.dispatch(view.state.tr.setSelection(TextSelection.create(view.state.doc, end)));
    await answer('photo');
    expect(notationOf(view.state)).toMatch(/^p\{onenew\} p\{lost\} fig\{pic\{\}\}.* p\{\|?two\}$/);
    expect(view.dom.querySelector('.taking-in')).toBeNull();
  });

  it('stand in blocks that play them, with the cursor where the transcript is written', async () => {
    open('p{one|} p{two}');
    paste(carrying(['mast.mp4', 'alarm.mp3']));
    await answer();
    await untilDrawn(view.dom, () => view.dom.querySelector('.taking-in') === null);
    const { doc } = view.state;
    expect(
      doc.content.content.map((node) => [node.type.name, node.attrs['medium'], node.attrs['name']] as unknown[]),
    ).toEqual([
      ['title', undefined, undefined],
      ['paragraph', undefined, undefined],
      ['media', 'video', 'mast.mp4'],
      ['media', 'audio', 'alarm.mp3'],
      ['paragraph', undefined, undefined],
    ]);
    view.dispatch(view.state.tr.insertText('Two people lift it.'));
    expect(view.state.doc.child(2).textContent).toBe('Two people lift it.');
    expect(checkBody(view.state.doc.toJSON() as ContentNode)).toEqual([]);
  });

  it('are refused by the library where they are recordings and only a line is written', async () => {
    open('phrase{a|b}');
    paste(carrying(['mast.mp4']));
    await answer(null);
    expect(notationOf(view.state)).toBe('phrase{a|b}');
  });

  it('stand in the line where only a line is written', async () => {
    open('phrase{a|b}');
    paste(carrying(['sign.png']));
    await answer('sign');
    expect(view.state.doc.firstChild?.text).toBe('a');
    expect(view.state.doc.child(1).attrs['component']).toBe('sign');
  });
});
