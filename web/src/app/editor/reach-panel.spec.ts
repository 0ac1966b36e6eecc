import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { HttpTestingController } from '@angular/common/http/testing';
import { makeNode, type ComponentClosure, type PassageChange, type ReachReport, type Unit } from '@allomorph/core';
import { configure, requestsTo } from '../shared/testing';
import { ReachPanel } from './reach-panel';

const unit = (text: string): Unit => ({ type: 'paragraph', text, component: 'c', block: 'b1', when: null });
const passage = (kind: PassageChange['kind'], before: string | null, after: string | null): PassageChange => ({
  kind,
  before: before === null ? null : unit(before),
  after: after === null ? null : unit(after),
  words:
    kind === 'changed'
      ? [
          { kind: 'removed', text: 'old ' },
          { kind: 'added', text: 'new ' },
          { kind: 'same', text: 'rest' },
        ]
      : [],
});
const closure = (revision: number): ComponentClosure => ({
  component: {
    key: 'c',
    kind: 'snippet',
    title: 'C',
    revision,
    body: makeNode('fragment', null, [makeNode('paragraph')]),
  },
  components: [],
  held: [],
});
const variant = (id: string) => ({ id, title: `Variant ${id}`, publicationTitle: 'The Book' });

describe('The reach of what is written', () => {
  let server: HttpTestingController;
  let fixture: ComponentFixture<ReachPanel>;
  let host: HTMLElement;

  const show = async (report: ReachReport, dirty: boolean): Promise<void> => {
    server = configure();
    fixture = TestBed.createComponent(ReachPanel);
    fixture.componentRef.setInput('written', closure(3));
    fixture.componentRef.setInput('dirty', dirty);
    host = fixture.nativeElement as HTMLElement;
    const [request, ...more] = await requestsTo(server, '/api/components/c/reach');
    expect(more).toEqual([]);
    expect(request?.request.body).toEqual({ base: 3, title: 'C', body: closure(3).component.body });
    request?.flush(report);
    await fixture.whenStable();
    TestBed.tick();
  };

  it('shows equal changes together, word by word', async () => {
    const passages = [
      passage('changed', 'old rest', 'new rest'),
      passage('added', null, 'come'),
      passage('removed', 'gone', null),
    ];
    await show(
      {
        variants: 6,
        groups: [{ variants: [variant('a'), variant('b')], topics: [{ topic: 't', title: 'Care', passages }] }],
      },
      true,
    );
    expect(host.textContent).toContain('Saving this alters 2 of 6 variants.');
    expect([...host.querySelectorAll('.variant')].map((each) => each.textContent?.replace(/\s+/g, ' ').trim())).toEqual(
      ['Variant a The Book', 'Variant b The Book'],
    );
    expect(host.querySelector('h4')?.textContent).toBe('Care');
    expect([...host.querySelectorAll('ins')].map((each) => each.textContent)).toEqual(['new ', 'come']);
    expect([...host.querySelectorAll('del')].map((each) => each.textContent)).toEqual(['old ', 'gone']);
  });

  it('says where only marks or links differ', async () => {
    await show(
      { variants: 1, groups: [{ variants: [variant('a')], topics: [{ topic: 't', title: 'T', passages: [] }] }] },
      true,
    );
    expect(host.textContent).toContain('Reads the same; marks or links differ.');
  });

  it('tells a change that alters nothing from no change', async () => {
    await show({ variants: 4, groups: [] }, true);
    expect(host.textContent).toContain('alters none of the 4 variants');
    TestBed.resetTestingModule();
    await show({ variants: 4, groups: [] }, false);
    expect(host.textContent).toContain('Nothing is changed.');
  });
});
