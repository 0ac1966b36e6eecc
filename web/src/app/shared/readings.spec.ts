import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { makeNode, makeText } from '@allomorph/core';
import type { ToRead } from './reading';
import { Readings } from './readings';
import { component, configure, until } from './testing';

describe('Readings, in their worker', () => {
  const asked = (text: string): ToRead => {
    const words = makeNode('fragment', null, [makeNode('paragraph', null, [makeText(text)])]);
    return {
      closure: { component: component('s', 'snippet', words), components: [], held: [] },
      lens: null,
      vocabulary: { axes: [], stamps: [] },
    };
  };

  beforeEach(() => {
    configure();
  });

  it('follow what is asked, and stay until the next is there', async () => {
    const question = signal<ToRead | undefined>(undefined);
    const reading = TestBed.runInInjectionContext(() => TestBed.inject(Readings).of(question));
    expect(reading()).toEqual({ html: '', problems: [] });
    question.set(asked('first'));
    await until(() => reading().html.includes('first'));
    // Of many that are asked in a row the last is what counts.
    for (let each = 0; each < 20; each += 1) {
      question.set(asked(`word ${each}`));
      TestBed.tick();
      expect(reading().html).not.toBe('');
    }
    await until(() => reading().html.includes('word 19'));
  });

  it('say that something cannot be read, and go on', async () => {
    const broken = asked('x');
    const question = signal<ToRead | undefined>({
      ...broken,
      closure: {
        ...broken.closure,
        component: {
          ...broken.closure.component,
          body: makeNode('fragment', null, [makeNode('paragraph', null, [{ type: 'no such kind' } as never])]),
        } as never,
      },
    });
    const reading = TestBed.runInInjectionContext(() => TestBed.inject(Readings).of(question));
    await until(() => reading().problems.length > 0);
    expect(reading().problems[0]?.severity).toBe('error');
    question.set(asked('well'));
    await until(() => reading().html.includes('well'));
  });
});
