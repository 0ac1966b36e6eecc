import { readFileSync } from 'node:fs';
import type { Component, ImageBody } from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';
import { digestOf, readBlob, storeBlob } from './blobs.js';

describe('Images', () => {
  let server: RunningServer;
  let writer: Client;

  /** One pixel (PNG, ISO/IEC 15948). */
  const png = new Uint8Array(
    Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    ),
  );

  const upload = (bytes: Uint8Array<ArrayBuffer>, name: string) => {
    const form = new FormData();
    form.set('file', new Blob([bytes]), name);
    form.set('alt', 'what it says');
    return writer.post<Component & ProblemDetails>('/images', form);
  };

  beforeAll(async () => {
    server = await startServer();
    writer = await server.as('writer');
  });
  afterAll(() => server.stop());

  it('are stored and shown so that nothing in them runs', async () => {
    const svg = readFileSync(new URL('../../../demo/src/pictures/station.svg', import.meta.url));
    const { json } = await upload(new Uint8Array(svg), 'My station.svg');
    expect(json.key).toBe('my-station');
    const { file, alt } = json.body as ImageBody;
    expect([file.mediaType, file.width, file.height, alt]).toEqual(['image/svg+xml', 520, 300, 'what it says']);
    const shown = await writer.get(`/images/${file.digest}`);
    expect(shown.bytes.equals(svg)).toBeTrue();
    expect(shown.headers.get('content-security-policy')).toContain("default-src 'none'");
    expect((await writer.get(`/images/${'0'.repeat(64)}`)).status).toBe(404);
  });

  it('are called after their files, in any script', async () => {
    const { json } = await upload(png, 'Größe “Ω”.png');
    expect(json.title).toBe('Größe “Ω”.png');
  });

  it('are looked into: another kind of file is refused whatever its name says', async () => {
    const refused = await upload(new TextEncoder().encode('#!/bin/sh\nrm -rf /'), 'picture.png');
    expect([refused.status, refused.json.detail]).toEqual([
      422,
      '“picture.png” is not a PNG, JPEG, GIF, WebP or SVG picture.',
    ]);
    expect((await writer.post('/images', new FormData())).status).toBe(400);
  });

  it('are made once of one file where that is asked for', async () => {
    const bytes = new Uint8Array(Buffer.concat([png, Buffer.from('once')]));
    const take = (title: string) => {
      const form = new FormData();
      form.set('file', new Blob([bytes]), 'image.png');
      form.set('title', title);
      form.set('once', 'yes');
      return writer.post<Component>('/images', form);
    };
    const { json: first } = await take('Picture in a topic');
    expect([first.key, first.title]).toEqual(['picture-in-a-topic', 'Picture in a topic']);
    expect((await take('Another title')).json.key).toBe(first.key);
    expect((await upload(bytes, 'own.png')).json.key).toBe('own');
    await writer.delete(`/components/${first.key}`);
    await writer.delete('/components/own');
    expect((await take('Again')).json.key).toBe('again');
  });

  it('get another file as a new revision, which keeps what is said of them', async () => {
    const { json: made } = await upload(png, 'old.png');
    const other = readFileSync(new URL('../../../demo/src/pictures/display.svg', import.meta.url));
    const put = (base: number, file = new Uint8Array(other), key = made.key) => {
      const form = new FormData();
      form.set('file', new Blob([file]), 'new.svg');
      form.set('base', String(base));
      return writer.post<Component & ProblemDetails>(`/components/${key}/file`, form);
    };
    const { json: changed } = await put(1);
    expect([changed.revision, changed.title]).toEqual([2, made.title]);
    const { alt, file } = changed.body as ImageBody;
    expect([alt, file.mediaType]).toEqual(['what it says', 'image/svg+xml']);
    expect((await put(1)).status).toBe(409);
    expect((await put(2, new TextEncoder().encode('no picture'))).status).toBe(422);
    expect((await put(1, new Uint8Array(other), 'none')).status).toBe(404);
    const reader = await server.as('reader');
    expect((await reader.post(`/components/${made.key}/file`, new FormData())).status).toBe(403);
  });

  it('are what their bytes say, whatever a request says of them', async () => {
    const { json: made } = await upload(png, 'dot.png');
    const body = made.body as ImageBody;
    const claimed = { ...body.file, mediaType: 'text/html', width: 9999 };
    const change = {
      base: 1,
      title: made.title,
      body: { ...body, file: claimed, versions: [{ when: 'a is b', file: claimed }] },
    };
    const { json: saved } = await writer.put<Component>(`/components/${made.key}`, change);
    const { file, versions } = saved.body as ImageBody;
    for (const each of [file, ...versions.map((version) => version.file)])
      expect([each.mediaType, each.width]).toEqual(['image/png', 1]);
    expect((await writer.get(`/images/${file.digest}`)).type).toBe('image/png');
    const unknown = { ...claimed, digest: '1'.repeat(64) };
    const refused = await writer.post<ProblemDetails>('/components', {
      kind: 'image',
      title: 'Made up',
      body: { type: 'image', alt: '', file: unknown, versions: [] },
    });
    expect([refused.status, refused.json.detail]).toEqual([
      422,
      'A file of this image is not in the library; upload it first.',
    ]);
    // What is no picture is not shown as one, though its bytes are stored.
    const page = await storeBlob(server.db, new TextEncoder().encode('<script>alert(1)</script>'));
    expect((await writer.get(`/images/${page}`)).status).toBe(404);
  });

  it('of one title, many at once, all get keys of their own', async () => {
    const answers = await Promise.all(Array.from({ length: 8 }, () => upload(png, 'same title.png')));
    expect(answers.map(({ status }) => status)).toEqual(Array<number>(8).fill(200));
    expect(new Set(answers.map(({ json }) => json.key)).size).toBe(8);
  });

  it('of any size come back as they went in', async () => {
    const bytes = Buffer.alloc((5 << 20) / 2, 'allomorph');
    const digest = await storeBlob(server.db, bytes);
    expect(digest).toBe(digestOf(bytes));
    expect((await readBlob(server.db, digest))?.equals(bytes)).toBeTrue();
    expect(await storeBlob(server.db, bytes)).toBe(digest);
  });
});
