import { TestBed } from '@angular/core/testing';
import { makeNode, makeText } from '@allomorph/core';
import { Lens } from './lens';
import { configure, testAxes, testProfiles, testVariant } from './testing';

describe('The lens', () => {
  const setUp = () => {
    sessionStorage.clear();
    const server = configure();
    const lens = TestBed.inject(Lens);
    lens.refresh().subscribe();
    server.expectOne('/api/variation').flush({ axes: testAxes, profiles: testProfiles, designs: [], stamps: [] });
    server.expectOne('/api/variants').flush([testVariant]);
    server
      .expectOne('/api/publications')
      .flush([{ key: 'book', title: 'The Book', revision: 1, entries: 0, variants: 1 }]);
    return { lens, server };
  };

  it('offers variants under their publication, then profiles', () => {
    const { lens } = setUp();
    expect(lens.choices().map(({ id, title, group }) => [id, title, group])).toEqual([
      [`variant:${testVariant.id}`, 'Large, Europe', 'The Book'],
      ['profile:small', 'Small', 'Profiles'],
      ['profile:large', 'Large', 'Profiles'],
    ]);
    expect(lens.current()).toBeNull();
    expect(lens.selector()).toBeNull();
    expect(lens.recipe()).toBeNull();
  });

  it('decides conditions as the chosen profile does, and says axis by axis what is in', () => {
    const { lens } = setUp();
    lens.look('profile:small');
    expect(lens.selector()?.holds('product is two')).toBeTrue();
    expect(lens.selector()?.holds('product is four')).toBeFalse();
    expect(lens.axisTexts()).toEqual([
      { axis: 'Product', text: 'Dunlin 2' },
      { axis: 'Market', text: 'all' },
    ]);
  });

  it('brings the language and the values of a variant and of its publication', () => {
    const { lens, server } = setUp();
    lens.look(`variant:${testVariant.id}`);
    TestBed.tick();
    const values = { name: makeNode('phrase', null, [makeText('from the book')]) };
    server
      .expectOne('/api/publications/book')
      .flush({ key: 'book', title: 'The Book', revision: 1, values, entries: [] });
    expect(lens.recipe()?.language).toBe('de');
    expect(lens.recipe()?.publication.values).toEqual(values);
  });

  it('is taken off and put on again, and stays for the window', () => {
    const { lens } = setUp();
    lens.look('profile:large');
    lens.toggle();
    expect(lens.current()).toBeNull();
    lens.toggle();
    expect(lens.current()?.title).toBe('Large');
    TestBed.tick();
    expect(sessionStorage.getItem('allomorph.lens')).toBe('profile:large');
    lens.look(null);
    TestBed.tick();
    expect(sessionStorage.getItem('allomorph.lens')).toBeNull();
  });

  it('has a colour of its own for each choice, and none without one', () => {
    const { lens } = setUp();
    expect(lens.colour()).toBeNull();
    lens.look('profile:small');
    const small = lens.colour();
    lens.look('profile:large');
    expect(lens.colour()).not.toBe(small);
  });
});
