import { Resvg } from '@resvg/resvg-js';
import { closedDrawing } from './closed-drawing.js';

const svg = (inner: string, attributes = ''): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="10" height="10"${attributes}>${inner}</svg>`;

describe('A drawing that is closed', () => {
  it('looks as before where it refers to nothing outside', () => {
    const drawing = svg(
      '<defs><linearGradient id="g"><stop offset="0" stop-color="red"/></linearGradient><rect id="r" width="4" height="4"/></defs>' +
        '<style>.a{fill:url(#g)}</style><use xlink:href="#r" class="a" x="3"/><text y="9" font-size="3">a &lt; b</text>',
    );
    const pixels = (text: string): Buffer => new Resvg(text, { font: { loadSystemFonts: false } }).render().pixels;
    expect(closedDrawing(drawing)).toContain('a &lt; b');
    expect(pixels(closedDrawing(drawing))).toEqual(pixels(drawing));
  });

  it('has nothing that leads outside or runs', () => {
    const hostile = [
      '<image href="/etc/passwd.png"/>',
      '<image xlink:href="file:///etc/a.png"/>',
      '<image href="https://a.example/x.png"/>',
      '<image href="data:image/svg+xml,%3Csvg/%3E"/>',
      '<rect fill="url(https://a.example/#x)"/>',
      '<rect style="fill:\\75rl(https://a.example/)"/>',
      '<style>@import "https://a.example/";</style>',
      '<style>.a{background:url("/a.png")}</style>',
      '<script>alert(1)</script>',
      '<rect onclick="alert(1)"/>',
      '<foreignObject><p>x</p></foreignObject>',
    ];
    for (const each of hostile)
      expect(closedDrawing(svg(each)))
        .withContext(each)
        .not.toMatch(/etc|a\.example|a\.png|alert|%3C|<p>|75rl/);
    expect(closedDrawing(`<?xml-stylesheet href="https://a.example/a.css"?>${svg('<g/>')}`)).not.toContain('a.example');
    expect(closedDrawing(svg('<image href="data:image/png;base64,AAAA"/>'))).toContain('data:image/png;base64,AAAA');
  });

  it('is refused where it is no XML, or comes to more than anybody can draw', () => {
    expect(() => closedDrawing('<svg><g></svg>')).toThrowError(/no XML/);
    expect(() => closedDrawing('<!DOCTYPE svg [<!ENTITY a "b">]><svg>&a;</svg>')).toThrowError(/no XML/);
    const level = (at: number): string => `<g id="l${at}">${`<use href="#l${at - 1}"/>`.repeat(10)}</g>`;
    const bomb = svg(`<g id="l0"><rect/></g>${Array.from({ length: 12 }, (_, at) => level(at + 1)).join('')}`);
    expect(() => closedDrawing(bomb)).toThrowError(/more than 100000 parts/);
    expect(closedDrawing(svg('<g id="a"><use href="#a"/></g>'))).toContain('<use');
  });
});
