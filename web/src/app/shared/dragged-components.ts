import type { ComponentRow } from '@allomorph/core';

/** How components of the library travel to a page or a collection: by their keys. */
const componentsType = 'application/x-allomorph-components';

/** How topics travel to an outline. */
export const topicsType = 'application/x-allomorph-topics';

/** Puts components of a list on their way. Outlines take the topics among them; a page, the first. */
export function dragComponents({ dataTransfer }: DragEvent, rows: readonly ComponentRow[]): void {
  if (!dataTransfer) return;
  const keysOf = (list: readonly ComponentRow[]): string => JSON.stringify(list.map(({ key }) => key));
  const topics = rows.filter(({ kind }) => kind === 'topic');
  dataTransfer.setData(componentsType, keysOf(rows));
  if (topics.length > 0) dataTransfer.setData(topicsType, keysOf(topics));
  dataTransfer.setData('text/plain', rows.map(({ title }) => title).join('\n'));
  dataTransfer.effectAllowed = 'copyMove';
}

/** Whether components are being dragged. */
export function dragsComponents(data: DataTransfer | null): boolean {
  return data?.types.includes(componentsType) ?? false;
}

/** The keys of the components that were dropped; none, where something else was. */
export function droppedComponents(data: DataTransfer | null): readonly string[] {
  return keysIn(data, componentsType) ?? [];
}

/** The keys that are being dragged as a type says; null: nothing of it is. */
export function keysIn(data: DataTransfer | null, type: string): readonly string[] | null {
  if (!data?.types.includes(type)) return null;
  try {
    const read: unknown = JSON.parse(data.getData(type) || '[]');
    return Array.isArray(read) ? read.filter((each) => typeof each === 'string') : null;
  } catch {
    return null;
  }
}
