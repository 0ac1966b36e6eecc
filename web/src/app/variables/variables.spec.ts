import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { RouterTestingHarness } from '@angular/router/testing';
import { EMPTY } from 'rxjs';
import { Lens } from '../shared/lens';
import { configure, requestsTo, serverTells, signedInAs, testAxes, untilDrawn } from '../shared/testing';
import { VariablesPlace } from './variables';

describe('Variables', () => {
  for (const by of ['', 'market'])
    it(`are not said to be none while they are read, nor where that fails, ${by ? 'as a grid' : 'as a list'}`, async () => {
      const server = configure(serverTells(EMPTY), provideRouter([{ path: 'variables', component: VariablesPlace }]));
      signedInAs(server, 'writer');
      TestBed.inject(Lens).variation.set({ axes: testAxes, profiles: [], designs: [], stamps: [] });
      const harness = await RouterTestingHarness.create();
      const opened = harness.navigateByUrl(`/variables?by=${by}`);
      const asked = await requestsTo(server, '/api/variables');
      await opened;
      const host = harness.fixture.nativeElement as HTMLElement;
      const says = (text: string): Promise<void> => untilDrawn(host, () => host.textContent?.includes(text) === true);
      await says('Reading the variables');
      expect(host.textContent).not.toContain('No variable fits');
      for (const request of asked)
        request.flush({ detail: 'The database is away.' }, { status: 503, statusText: 'Away' });
      await says('The database is away.');
      expect(host.textContent).not.toContain('No variable fits');
    });
});
