import { addressOfRoute, roles, routes, type Route } from '@allomorph/core';
import { randomUUID } from 'node:crypto';
import { Client, type ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

/** The address of a route with parts that lead to nothing. */
const nowhere = (route: Route): string =>
  addressOfRoute(route, {
    key: 'none',
    id: randomUUID(),
    revision: 1,
    format: 'html',
    digest: '0'.repeat(64),
    path: ['none.html'],
  });

describe('The routes of the contract', () => {
  let server: RunningServer;

  beforeAll(async () => {
    server = await startServer();
  });
  afterAll(() => server.stop());

  it('have addresses that keep every sign of a part', () => {
    expect(addressOfRoute(routes.components, {})).toBe('/api/components');
    expect(addressOfRoute(routes.closure, { key: 'größe/?' })).toBe('/api/components/gr%C3%B6%C3%9Fe%2F%3F/closure');
    const file = { id: 'b', format: 'html', path: ['images', 'a b.png'] };
    expect(addressOfRoute(routes.deliverableFile, file)).toBe('/api/deliverables/b/html/images/a%20b.png');
  });

  it('are there for the roles that the contract names, and for nobody below', async () => {
    const people = await Promise.all(roles.map(async (role) => ({ role, client: await server.as(role) })));
    for (const [name, route] of Object.entries<Route>(routes)) {
      if (route.role === null) continue;
      const ask = (client: Client): Promise<number> => client.statusOf(route.method.toUpperCase(), nowhere(route));
      expect(await ask(new Client(server.origin)))
        .withContext(`${name} without a session`)
        .toBe(401);
      for (const { role, client } of people) {
        const allowed = roles.indexOf(role) >= roles.indexOf(route.role);
        const status = await ask(client);
        expect(status === 403)
          .withContext(`${name} as ${role}: ${status}`)
          .toBe(!allowed);
        expect(status).withContext(`${name} as ${role}`).toBeLessThan(500);
      }
    }
  });

  it('refuse an upload of somebody who may not before its bytes are read', async () => {
    const file = (): FormData => {
      const form = new FormData();
      form.set('file', new Blob([new Uint8Array(1 << 20)]), 'big.zip');
      // Without a title, whoever may import is told so.
      return form;
    };
    const address = addressOfRoute(routes.importDocbook, {});
    const refused = await (await server.as('writer')).request<ProblemDetails>('POST', address, file());
    expect(refused.status).toBe(403);
    const told = await (await server.as('keeper')).request<ProblemDetails>('POST', address, file());
    expect([told.status, told.json.detail]).toEqual([400, 'title: Invalid input: expected string, received undefined']);
  });
});
