import type { ComponentKind } from '@allomorph/core';

export const kindNames: Readonly<Record<ComponentKind, string>> = {
  topic: 'topic',
  snippet: 'snippet',
  variable: 'variable',
  image: 'image',
  link: 'link',
};

export const kindIcons: Readonly<Record<ComponentKind, string>> = {
  topic: 'pi pi-file',
  snippet: 'pi pi-bookmark',
  variable: 'pi pi-percentage',
  image: 'pi pi-image',
  link: 'pi pi-link',
};

/** Where a component is opened. */
export function componentAddress(
  kind: ComponentKind,
  key: string,
): { readonly commands: readonly unknown[]; readonly query: Readonly<Record<string, string>> | null } {
  return kind === 'variable' ? { commands: ['/variables'], query: { key } } : { commands: ['/edit', key], query: null };
}
