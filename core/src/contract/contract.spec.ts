import { makeNode, makeText } from '../model/node.js';
import { axisSchema, profileSchema } from './variation.js';
import { keySchema } from './parts.js';
import { newComponentSchema } from './components.js';
import { savePublicationSchema, variantSchema } from './publications.js';
import { serverEventSchema } from './workspace.js';
import { variantRecipe as recipe } from '../../../tests/support/library-parts.js';
import { profilesFileSchema } from './profiles-file.js';

const value = (key: string, more = {}) => ({ key, title: key, code: 'X', colour: 0, pattern: 0, ...more });

describe('What crosses HTTP', () => {
  it('has keys that can be typed, in any script', () => {
    for (const key of ['dunlin-4x', 'größe', '値', 'a.b_c', '4'])
      expect(keySchema.safeParse(key).success).withContext(key).toBeTrue();
    for (const key of ['', 'a b', '-a', 'a/b', '@a', 'x'.repeat(81)])
      expect(keySchema.safeParse(key).success).withContext(key).toBeFalse();
  });

  it('has conditions that can be read, wherever one may stand', () => {
    const entries = (when: string) => ({
      base: 1,
      title: 'T',
      values: {},
      entries: [{ id: 'e', topic: 't', entries: [{ id: 'f', topic: 'u', when }] }],
    });
    expect(savePublicationSchema.safeParse(entries('a is b')).success).toBeTrue();
    const broken = savePublicationSchema.safeParse(entries('a is'));
    expect(broken.success ? '' : broken.error.issues[0]?.message).toContain('Condition: Expected a value');
    expect(broken.success ? [] : broken.error.issues[0]?.path).toEqual(['entries', 0, 'entries', 0, 'when']);
    const phrase = makeNode('phrase', null, [makeText('x')]);
    const rule = (when: string | null) =>
      newComponentSchema.safeParse({
        kind: 'variable',
        title: 'V',
        body: { type: 'variable', default: null, rules: [{ when, language: null, value: phrase }] },
      });
    expect(rule(null).success).toBeTrue();
    expect(rule('nonsense').success).toBeFalse();
  });

  it('has axes without a value twice at any depth, and codes of one to three signs', () => {
    expect(
      axisSchema.safeParse({ key: 'a', title: 'A', values: [value('x', { values: [value('y')] })] }).success,
    ).toBeTrue();
    expect(
      axisSchema.safeParse({ key: 'a', title: 'A', values: [value('x', { values: [value('x')] })] }).success,
    ).toBeFalse();
    expect(axisSchema.safeParse({ key: 'a', title: 'A', values: [value('x', { code: 'ABCD' })] }).success).toBeFalse();
    expect(axisSchema.safeParse({ key: 'a', title: 'A', values: [value('x', { code: ' ' })] }).success).toBeFalse();
  });

  it('has titles that say something', () => {
    expect(
      newComponentSchema.safeParse({ kind: 'link', title: '  ', body: { type: 'link', href: '', label: '' } }).success,
    ).toBeFalse();
    const trimmed = newComponentSchema.parse({
      kind: 'link',
      title: ' L ',
      body: { type: 'link', href: '', label: '' },
    });
    expect(trimmed.title).toBe('L');
  });

  it('has variants in a language tag (BCP 47) and with a format that is known', () => {
    for (const language of ['en', 'de-AT', 'zh-Hant-TW'])
      expect(variantSchema.safeParse({ ...recipe, language }).success).toBeTrue();
    for (const language of ['', 'english language', 'e', 'de_AT'])
      expect(variantSchema.safeParse({ ...recipe, language }).success).toBeFalse();
    expect(variantSchema.safeParse({ ...recipe, formats: [] }).success).toBeFalse();
    expect(variantSchema.safeParse({ ...recipe, formats: ['stone'] }).success).toBeFalse();
  });

  it('has profiles, events and files of profiles of one shape', () => {
    expect(
      profileSchema.safeParse({ key: 'p', title: 'P', axes: { a: { default: 'in', out: ['x'] } } }).success,
    ).toBeTrue();
    expect(profileSchema.safeParse({ key: 'p', title: 'P', axes: { a: { default: 'maybe' } } }).success).toBeFalse();
    expect(
      serverEventSchema.safeParse({ type: 'build', id: 'x', state: 'done', stage: '', progress: 1 }).success,
    ).toBeTrue();
    expect(serverEventSchema.safeParse({ type: 'weather' }).success).toBeFalse();
    expect(profilesFileSchema.safeParse({ axes: {}, profiles: [{ profile: 'a' }] }).success).toBeTrue();
    expect(profilesFileSchema.safeParse({ axes: { a: { default: 'perhaps' } }, profiles: [] }).success).toBeFalse();
  });
});
