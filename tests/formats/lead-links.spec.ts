import { leadLinks } from '../../server/src/typesetting/lead-links.js';
import { Typesetter } from '../../server/src/typesetting/typesetter.js';
import { checkPdf, linksOfPdf } from './read-formats.js';

describe('Links to places of a document', () => {
  const typesetter = new Typesetter();
  afterAll(() => typesetter.stop());

  const document = (places: string) => `
    #set document(title: "A")
    #set text(font: "Source Serif 4")
    #link("place:two words (1)\\\\ü")[Round], #link("place:flat")[Flat], #link("https://a.example/(x)")[outside]
    #pagebreak()
    #v(60pt)
    Here it is. #label("two words (1)\\\\ü")
    #page(flipped: true)[#v(100pt) Lying. <flat>]
    #context [#metadata((${places}).map(place => {
      let (page, x, y) = locate(label(place)).position()
      (place: place, page: page, x: x.pt(), y: y.pt(), told: "S. " + str(page))
    }))<places>]`;
  const typeset = (places: string, standard = 'ua-1') =>
    typesetter.typeset({
      files: [{ path: 'main.typ', bytes: Buffer.from(document(places)) }],
      fonts: [],
      standard,
      timestamp: 0,
    });

  it('lead there whatever the places are called and however the page lies; other links stay', async () => {
    const { pdf, against } = await typeset('"two words (1)\\\\ü", "flat",');
    expect(against).toEqual([]);
    expect(checkPdf(pdf)).toContain('No syntax or stream encoding errors found');
    const { inside, addresses } = linksOfPdf(pdf);
    expect(addresses).toEqual(['https://a.example/(x)']);
    expect(inside.map(({ told, there }) => [told, there])).toEqual([
      ['S. 2', 'Here it is.'],
      ['S. 3', 'Lying.'],
    ]);
  });

  it('lead nowhere in a drawing of the pages', async () => {
    const { pdf: drawing } = await typeset('"two words (1)\\\\ü", "flat",', 'drawing');
    expect(drawing.toString()).not.toContain('place:');
    expect(drawing.toString()).toContain(' href="https://a.example/(x)"');
  });

  it('are an error where there is no such place', async () => {
    await expectAsync(typeset('"flat",')).toBeRejectedWithError(
      'No place of the document is called “two words (1)\\ü”.',
    );
    expect(() => leadLinks(Buffer.from('no document'), [])).toThrowError(
      'The typeset document has no table of its objects.',
    );
  });
});
