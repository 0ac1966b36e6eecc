import { component, fragment, only, p, phrase, section, see, topicBody } from '../../../tests/support/library-parts.js';
import { duplicateBody } from './duplicate.js';

describe('A duplicate', () => {
  it('has a title of its own, and all else of what it was made of, with its own references and its condition', () => {
    const flow = [p('See ', see(null, 's1'), '.'), section('s1', 'Part', p('x'))];
    const original = component('topic', 't', only('os is mac', topicBody('Old', ...flow)));
    expect(duplicateBody(original, 'New')).toEqual(only('os is mac', topicBody('New', ...flow)));
  });

  it('of anything but a topic is the same, as its title does not stand in it', () => {
    const snippet = component('snippet', 's', fragment(p('x')));
    const value = component('variable', 'v', { type: 'variable', default: phrase('x'), rules: [] });
    expect(duplicateBody(snippet, 'New')).toBe(snippet.body);
    expect(duplicateBody(value, 'New')).toBe(value.body);
  });
});
