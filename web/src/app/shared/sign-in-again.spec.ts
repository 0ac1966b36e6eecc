import { HttpErrorResponse, provideHttpClient, withInterceptors } from '@angular/common/http';
import { provideHttpClientTesting, type HttpTestingController } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { Api } from './api';
import { resumeAfterSignIn, SignInAgain } from './sign-in-again';
import { configure } from './testing';

describe('An ended session', () => {
  const ended = { status: 401, statusText: 'Unauthorized' };
  let server: HttpTestingController;
  let again: SignInAgain;
  let api: Api;

  beforeEach(() => {
    // The last provider of the client counts: the one with the interceptor, on the server of the tests.
    server = configure(provideHttpClient(withInterceptors([resumeAfterSignIn])), provideHttpClientTesting());
    again = TestBed.inject(SignInAgain);
    api = TestBed.inject(Api);
    again.canAsk.set(true);
  });
  afterEach(() => server.verify());

  it('holds what was asked, however much, until the person has signed in again', () => {
    const got: unknown[] = [];
    api.variants().subscribe((each) => got.push(each));
    api.labels().subscribe((each) => got.push(each));
    server.expectOne('/api/variants').flush(null, ended);
    server.expectOne('/api/labels').flush(null, ended);
    expect(again.asking()).toBeTrue();
    again.answer(true);
    server.expectOne('/api/variants').flush([]);
    server.expectOne('/api/labels').flush({ collections: [], tags: [] });
    expect([again.asking(), got.length]).toEqual([false, 2]);
  });

  it('is told as what it is where the person does not want to, and at the sign-in itself', () => {
    const failed: number[] = [];
    const error = (each: unknown): void => void (each instanceof HttpErrorResponse && failed.push(each.status));
    api.variants().subscribe({ error });
    server.expectOne('/api/variants').flush(null, ended);
    again.answer(false);
    api.signIn('ines', 'wrong').subscribe({ error });
    server.expectOne('/api/session').flush(null, ended);
    expect([failed, again.asking()]).toEqual([[401, 401], false]);
  });
});
