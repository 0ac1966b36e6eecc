import { TestBed } from '@angular/core/testing';
import { ownSettingsSchema } from '@allomorph/core';
import { Session } from './session';
import { configure } from './testing';
import { Wording } from './wording';

describe('Wording', () => {
  const inLanguage = (language: string): Wording => {
    const server = configure();
    TestBed.inject(Session).load().subscribe();
    const settings = ownSettingsSchema.parse({ language });
    server.expectOne('/api/session').flush({
      person: { id: '', name: 'A', signIn: 'a', role: 'writer', settings },
      workspace: 'W',
    });
    return TestBed.inject(Wording);
  };
  const at = '2026-11-22T12:05:00';

  // What the languages write is from the Unicode Common Locale Data Repository (CLDR).
  it('writes dates, numbers and sizes in the language of the person', () => {
    const english = inLanguage('en-GB');
    expect([english.day(at), english.number(12_345.5), english.size(2_400_000)]).toEqual([
      '22 Nov 2026',
      '12,345.5',
      '2.4 MB',
    ]);
    expect(english.exact(at)).toMatch(/Sunday,? 22 November 2026/);
    TestBed.resetTestingModule();
    const german = inLanguage('de');
    expect([german.day(at), german.number(12_345.5)]).toEqual(['22.11.2026', '12.345,5']);
  });

  it('counts things, and puts names in a row', () => {
    const wording = inLanguage('en-GB');
    expect([wording.count(1, 'block', 'blocks'), wording.count(1200, 'block', 'blocks')]).toEqual([
      '1 block',
      '1,200 blocks',
    ]);
    expect(wording.list(['a', 'b', 'c'])).toBe('a, b, and c');
  });
});
