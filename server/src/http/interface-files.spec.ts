import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

describe('The files of the interface', () => {
  let folder: string;
  let server: RunningServer;

  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'allomorph-interface-'));
    for (const name of ['index.html', 'main-3DRO45ZX.js', 'mark.svg']) writeFileSync(join(folder, name), name);
    server = await startServer('empty', {}, folder);
  });
  afterAll(async () => {
    await server.stop();
    rmSync(folder, { recursive: true });
  });

  const get = async (path: string): Promise<unknown> => {
    const response = await fetch(`${server.origin}${path}`);
    return [response.status, response.headers.get('Cache-Control'), await response.text()];
  };

  // RFC 9111, 5.2.2.4 “no-cache”; RFC 8246 “immutable”.
  it('are kept for good where they are named after what they hold, and asked for anew otherwise', async () => {
    const forGood = 'public, max-age=31536000, immutable';
    expect(await get('/main-3DRO45ZX.js')).toEqual([200, forGood, 'main-3DRO45ZX.js']);
    expect(await get('/mark.svg')).toEqual([200, 'no-cache', 'mark.svg']);
    for (const place of ['/', '/edit/care', '/library?find=a.b'])
      expect(await get(place)).toEqual([200, 'no-cache', 'index.html']);
  });

  // RFC 9110, 8.4.1.3 and 12.5.3.
  it('come packed to browsers that take them so, and plain to others', async () => {
    for (const [accepts, encoding] of [
      ['gzip, deflate', 'gzip'],
      ['identity', null],
      ['gzip;q=0', null],
    ] as const) {
      const response = await fetch(`${server.origin}/main-3DRO45ZX.js`, { headers: { 'Accept-Encoding': accepts } });
      const { headers } = response;
      expect([headers.get('Content-Encoding'), headers.get('Vary'), headers.get('Content-Type')]).toEqual([
        encoding,
        'Accept-Encoding',
        'text/javascript; charset=utf-8',
      ]);
      expect(await response.text()).toBe('main-3DRO45ZX.js');
    }
  });

  it('are missing where another version had them: no page is sent instead', async () => {
    const [status, , text] = (await get('/chunk-5ESKVOIC.js')) as [number, string, string];
    expect(status).toBe(404);
    expect(text).toContain('There is no such file any more.');
  });
});
