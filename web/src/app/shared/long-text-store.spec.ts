import { readStored, removeStored, writeStored } from './long-text-store';

describe('Long texts in the store', () => {
  const name = 'a text';
  afterEach(() => removeStored(name));

  const start = 'The station reports. '.repeat(5_000);

  it('are what was written last, whatever was written before', () => {
    const middle = start.length / 2;
    const texts = [
      start,
      `${start.slice(0, middle)}x${start.slice(middle)}`,
      `${start.slice(0, middle)}xy${start.slice(middle)}`,
      start.slice(10, -10),
      `😀${start}`,
      `😁${start}`,
      start.repeat(2),
      start.toUpperCase(),
      '',
      'short',
      start,
      `${start}!`,
    ];
    for (const text of texts) {
      writeStored(name, text);
      expect(readStored(name) === text)
        .withContext(text.slice(0, 30))
        .toBeTrue();
    }
  });

  it('cost no more to write than what changed', () => {
    writeStored(name, start);
    const set = spyOn(Storage.prototype, 'setItem').and.callThrough();
    writeStored(name, `${start.slice(0, 500)}typed${start.slice(500)}`);
    const sizes = set.calls.allArgs().map(([, value]) => value.length);
    expect(sizes.length).toBe(1);
    expect(sizes[0]).toBeLessThan(100);
  });

  it('are whole again when somebody else took them away, and gone when they are removed', () => {
    writeStored(name, start);
    writeStored(name, `${start}!`);
    localStorage.removeItem(name);
    writeStored(name, `${start}?`);
    expect(readStored(name)).toBe(`${start}?`);
    removeStored(name);
    expect([readStored(name), Object.keys(localStorage).filter((each) => each.includes(name))]).toEqual([null, []]);
  });

  it('leave nothing behind where the store is full', () => {
    writeStored(name, start);
    spyOn(Storage.prototype, 'setItem').and.throwError('QuotaExceededError');
    writeStored(name, `${start}!`);
    expect(readStored(name)).toBeNull();
  });
});
