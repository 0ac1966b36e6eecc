import { ConfigFault, readConfig } from './config.js';

const least = { DATABASE_URL: 'postgres://someone@127.0.0.1:5432/library' };

describe('The settings of a process', () => {
  it('have values that hold without being set', () => {
    expect(readConfig({ ...least, PORT: '' })).toEqual(
      jasmine.objectContaining({
        port: 4600,
        host: '127.0.0.1',
        content: 'demo',
        origin: 'http://127.0.0.1:4600',
        deliverablesOrigin: 'http://127.0.0.1:4600',
        proxies: 0,
        secureCookies: false,
        metricsToken: null,
      }),
    );
  });

  it('send cookies over TLS only where people come in by it', () => {
    const behindProxy = readConfig({ ...least, ALLOMORPH_ORIGIN: 'https://docs.example', ALLOMORPH_PROXIES: '1' });
    expect([behindProxy.origin, behindProxy.secureCookies, behindProxy.proxies]).toEqual([
      'https://docs.example',
      true,
      1,
    ]);
  });

  it('are refused in one sentence that names the first that cannot be used', () => {
    const faultOf = (environment: Record<string, string>): string => {
      try {
        readConfig(environment);
        return '';
      } catch (error) {
        return error instanceof ConfigFault ? error.message : String(error);
      }
    };
    expect(faultOf({})).toBe(
      'The setting DATABASE_URL cannot be used: a postgres:// address is needed; “npm start” sets it.',
    );
    expect(faultOf({ ...least, PORT: '70000' })).toContain('The setting PORT cannot be used:');
    expect(faultOf({ ...least, ALLOMORPH_DEMO: 'perhaps' })).toContain('ALLOMORPH_DEMO');
    expect(faultOf({ ...least, ALLOMORPH_ORIGIN: 'https://docs.example/path' })).toContain('without a path');
  });
});
