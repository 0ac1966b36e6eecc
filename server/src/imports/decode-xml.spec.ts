import { ImportFault } from '@allomorph/core/interchange';
import { decodeXml } from './decode-xml.js';

const declared = (encoding: string, text: string): Buffer =>
  Buffer.from(`<?xml version="1.0" encoding="${encoding}"?>${text}`, 'latin1');

// The bytes are those of the encodings’ own tables, not of a decoder: ISO 8859-1 and Windows code page 1252.
describe('The text of an XML file', () => {
  it('is in the encoding that the file declares', () => {
    expect(decodeXml(declared('ISO-8859-1', '<t>Gr\xf6\xdfe</t>'), 'a.xml')).toContain('<t>Größe</t>');
    expect(decodeXml(declared('windows-1252', '<t>\x93x\x94</t>'), 'a.xml')).toContain('<t>“x”</t>');
    expect(decodeXml(declared('UTF-8', '<t>\xc3\xb6</t>'), 'a.xml')).toContain('<t>ö</t>');
  });

  it('is UTF-8 without a declaration, and what a byte order mark says before all else', () => {
    expect(decodeXml(Buffer.from([0x3c, 0x74, 0x3e, 0xc3, 0xb6]), 'a.xml')).toBe('<t>ö');
    expect(decodeXml(Buffer.from([0xef, 0xbb, 0xbf, 0x3c, 0x74, 0x3e]), 'a.xml')).toBe('<t>');
    expect(decodeXml(Buffer.from([0xff, 0xfe, 0x3c, 0x00, 0xf6, 0x00]), 'a.xml')).toBe('<ö');
    expect(decodeXml(Buffer.from([0xfe, 0xff, 0x00, 0x3c, 0x00, 0xf6]), 'a.xml')).toBe('<ö');
  });

  it('has line feeds for line ends (XML 1.0, 2.11)', () => {
    expect(decodeXml(Buffer.from('<a>\r\n<b>\r<c>\n'), 'a.xml')).toBe('<a>\n<b>\n<c>\n');
  });

  it('is refused with file and line where bytes are none of the encoding, or nobody knows it', () => {
    const faultOf = (bytes: Buffer): ImportFault => {
      try {
        decodeXml(bytes, 'deep/a.xml');
      } catch (error) {
        if (error instanceof ImportFault) return error;
      }
      throw new Error('It was not refused.');
    };
    const broken = faultOf(Buffer.concat([Buffer.from('<a>\n<b>\n'), Buffer.from([0xf6, 0x20])]));
    expect([broken.message, broken.file, broken.line]).toEqual([
      jasmine.stringContaining('not in the encoding “utf-8”'),
      'deep/a.xml',
      3,
    ]);
    const signed = Buffer.from('<t>\uFFFD</t>');
    expect(decodeXml(signed, 'a.xml')).toBe('<t>\uFFFD</t>');
    expect(faultOf(declared('x-klingon', '<t/>')).message).toContain('The encoding “x-klingon” is not known.');
  });
});
