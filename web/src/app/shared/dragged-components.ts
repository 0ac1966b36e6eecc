import type { ComponentKind, ComponentRow } from '@allomorph/core';
import { topicsType } from '../publications/outline-clipboard';

/** How components of the library travel to a page, an outline or a collection. */
export const componentsType = 'application/x-allomorph-components';

export interface DraggedComponent {
  readonly key: string;
  readonly kind: ComponentKind;
  readonly title: string;
}

/** Puts components of a list on their way. Outlines take the topics among them; a page, one of them. */
export function dragComponents(event: DragEvent, rows: readonly ComponentRow[]): void {
  const { dataTransfer } = event;
  if (!dataTransfer) return;
  const dragged = rows.map(({ key, kind, title }): DraggedComponent => ({ key, kind, title }));
  const topics = dragged.filter(({ kind }) => kind === 'topic').map(({ key }) => key);
  dataTransfer.setData(componentsType, JSON.stringify(dragged));
  if (topics.length > 0) dataTransfer.setData(topicsType, JSON.stringify(topics));
  dataTransfer.setData('text/plain', dragged.map(({ title }) => title).join('\n'));
  dataTransfer.effectAllowed = 'copyMove';
}

/** Whether components are being dragged. */
export function dragsComponents(data: DataTransfer | null): boolean {
  return data?.types.includes(componentsType) ?? false;
}

/** The components that were dropped; none, where something else was. */
export function droppedComponents(data: DataTransfer | null): readonly DraggedComponent[] {
  if (!data || !dragsComponents(data)) return [];
  try {
    const read: unknown = JSON.parse(data.getData(componentsType) || '[]');
    return Array.isArray(read) ? read.filter(isDragged) : [];
  } catch {
    return [];
  }
}

function isDragged(value: unknown): value is DraggedComponent {
  return typeof value === 'object' && value !== null && 'key' in value && typeof value.key === 'string';
}
