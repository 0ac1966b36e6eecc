/** A sound: a header (RIFF WAVE, as Microsoft and IBM published it in 1991) before plain samples of 8 bits. */
export function wave(samples: Uint8Array): Uint8Array<ArrayBuffer> {
  const header = Buffer.alloc(44);
  header.write('RIFF', 0, 'latin1');
  header.writeUInt32LE(36 + samples.length, 4);
  header.write('WAVEfmt ', 8, 'latin1');
  header.writeUInt32LE(16, 16);
  header.writeUInt16LE(1, 20);
  header.writeUInt16LE(1, 22);
  header.writeUInt32LE(8000, 24);
  header.writeUInt32LE(8000, 28);
  header.writeUInt16LE(1, 32);
  header.writeUInt16LE(8, 34);
  header.write('data', 36, 'latin1');
  header.writeUInt32LE(samples.length, 40);
  return new Uint8Array(Buffer.concat([header, samples]));
}

/** The first box of a film (ISO/IEC 14496-12, 4.3), with bytes behind it: enough to be known by. */
export function film(rest: Uint8Array): Uint8Array<ArrayBuffer> {
  const box = Buffer.from('00000018667479706d703432000000006973616d6d703432', 'hex');
  return new Uint8Array(Buffer.concat([box, rest]));
}
