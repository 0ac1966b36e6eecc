import { TestBed } from '@angular/core/testing';
import type { Component, Uses } from '@allomorph/core';
import { ConfirmationService, MessageService, type Confirmation, type ToastMessageOptions } from 'primeng/api';
import { Deletion } from './deletion';
import type { NoticeData } from './notices';
import { configure } from './testing';

describe('Deleting', () => {
  const setUp = () => {
    const server = configure();
    let question: Confirmation | null = null;
    const messages: ToastMessageOptions[] = [];
    spyOn(TestBed.inject(ConfirmationService), 'confirm').and.callFake((asked) => {
      question = asked;
      return TestBed.inject(ConfirmationService);
    });
    spyOn(TestBed.inject(MessageService), 'add').and.callFake((message) => void messages.push(message));
    return { server, messages, deletion: TestBed.inject(Deletion), asked: () => question as Confirmation | null };
  };

  const unused: Uses = { direct: [], directTotal: 0, further: [], furtherTotal: 0 };
  const a = { key: 'a', title: 'A' };

  it('does nothing before it was agreed to', () => {
    const { server, deletion, asked } = setUp();
    deletion.component(a, fail, fail);
    server.expectOne('/api/components/a/uses').flush(unused);
    expect([asked()?.header, asked()?.message]).toEqual(['Delete “A”?', jasmine.stringContaining('Nothing uses it.')]);
    server.expectNone('/api/components/a');
  });

  it('is not offered for what is used; the users are named', () => {
    const { server, deletion, asked } = setUp();
    deletion.component(a, fail, fail);
    const use = (title: string) => ({ title }) as Uses['direct'][number];
    const direct = [use('B'), use('B'), use('C')];
    server.expectOne('/api/components/a/uses').flush({ ...unused, direct, directTotal: 3 });
    expect(asked()?.header).toBe('“A” is used');
    expect(asked()?.message).toContain('“B”, “C” would be left without it.');
    deletion.component(a, fail, fail);
    server.expectOne('/api/components/a/uses').flush({ ...unused, direct, directTotal: 300 });
    expect(asked()?.message).toContain('“B”, “C” and others would be left without it.');
    expect([asked()?.acceptVisible, asked()?.accept]).toEqual([false, undefined]);
  });

  it('can be undone', () => {
    const { server, messages, deletion, asked } = setUp();
    const steps: string[] = [];
    deletion.component(
      a,
      () => steps.push('gone'),
      ({ key }) => steps.push(`back ${key}`),
    );
    server.expectOne('/api/components/a/uses').flush(unused);
    asked()?.accept?.();
    server.expectOne({ method: 'DELETE', url: '/api/components/a' }).flush(null);
    (messages.at(-1)?.data as NoticeData).undo();
    server.expectOne({ method: 'POST', url: '/api/components/a/restore' }).flush({ key: 'a' } as Component);
    expect(steps).toEqual(['gone', 'back a']);
    expect(messages.at(-1)?.summary).toBe('“A” is back.');
  });

  it('says why where it is refused, and leaves everything as it was', () => {
    const { server, messages, deletion, asked } = setUp();
    deletion.component(a, fail, fail);
    server.expectOne('/api/components/a/uses').flush(unused);
    asked()?.accept?.();
    const refusal = { detail: '“A” is used in “B”. Take it out there first.' };
    server.expectOne('/api/components/a').flush(refusal, { status: 409, statusText: 'Conflict' });
    expect(messages.at(-1)?.summary).toBe(refusal.detail);
    expect(messages.at(-1)?.sticky).toBeTrue();
  });
});
