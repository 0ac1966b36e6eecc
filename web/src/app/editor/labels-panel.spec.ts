import { TestBed } from '@angular/core/testing';
import { makeNode, type Component } from '@allomorph/core';
import { configure } from '../shared/testing';
import { Session } from '../shared/session';
import { LabelsPanel, readTags, tagsText } from './labels-panel';

const snippet: Component = {
  key: 'tip',
  kind: 'snippet',
  title: 'Tip',
  revision: 1,
  body: makeNode('fragment', null, [makeNode('paragraph')]),
  labels: { collection: 'tips', tags: { subject: ['rain', 'wind'] } },
};

describe('Labels', () => {
  it('are written as people type them, and read back', () => {
    const tags = { subject: ['rain', 'strong wind'], season: ['winter'] };
    expect(tagsText(tags)).toBe('subject: rain, strong wind; season: winter');
    expect(readTags(tagsText(tags))).toEqual(tags);
    expect(readTags('  ')).toEqual({});
    expect(readTags('when: 10:30')).toEqual({ when: ['10:30'] });
  });

  it('need a name and a value for each tag', () => {
    expect(readTags('rain')).toBeNull();
    expect(readTags('subject: ,')).toBeNull();
    expect(readTags(': rain')).toBeNull();
  });

  it('are saved at once, and told to the page', async () => {
    const server = configure({ provide: Session, useValue: { mayWrite: () => true } });
    const fixture = TestBed.createComponent(LabelsPanel);
    const told: Component[] = [];
    fixture.componentInstance.labelled.subscribe((each) => told.push(each));
    fixture.componentRef.setInput('component', snippet);
    TestBed.tick();
    server.expectOne('/api/labels').flush({ collections: [], tags: [], people: [] });
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const field = host.querySelector<HTMLInputElement>('#label-tags');
    expect(field?.value).toBe('subject: rain, wind');
    if (field) field.value = 'subject: hail';
    field?.dispatchEvent(new Event('input'));
    host.querySelector('button')?.click();
    const request = server.expectOne('/api/components/tip/labels');
    expect(request.request.body).toEqual({ collection: 'tips', tags: { subject: ['hail'] } });
    const saved = { ...snippet, labels: { collection: 'tips', tags: { subject: ['hail'] } } };
    request.flush(saved);
    expect(told).toEqual([saved]);
  });

  it('stay as they are written while something else of the component is saved', async () => {
    const server = configure({ provide: Session, useValue: { mayWrite: () => true } });
    const fixture = TestBed.createComponent(LabelsPanel);
    fixture.componentRef.setInput('component', snippet);
    TestBed.tick();
    server.expectOne('/api/labels').flush({ collections: [], tags: [], people: [] });
    await fixture.whenStable();
    const field = (fixture.nativeElement as HTMLElement).querySelector<HTMLInputElement>('#label-tags');
    if (!field) throw new Error('There is no field for tags.');
    field.value = 'subject: hail';
    field.dispatchEvent(new Event('input'));
    fixture.componentRef.setInput('component', { ...snippet, revision: 2 });
    await fixture.whenStable();
    expect(field.value).toBe('subject: hail');
    fixture.componentRef.setInput('component', {
      ...snippet,
      labels: { collection: 'tips', tags: { subject: ['fog'] } },
    });
    await fixture.whenStable();
    expect(field.value).toBe('subject: fog');
  });
});
