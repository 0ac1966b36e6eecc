import type { DesignSettings, ListedDesign, SettingValue } from '@allomorph/core';

/** What is changed of a design, each part by itself: its title, what it derives from, and each setting that it says. */
export type DesignParts = Readonly<Record<string, SettingValue | null>>;

const title = '#title';
const from = '#from';

export function partsOf(design: ListedDesign): DesignParts {
  return { [title]: design.title, [from]: design.from, ...design.settings };
}

/** A design with changed parts. */
export function withParts(design: ListedDesign, parts: DesignParts): ListedDesign {
  return { ...design, title: titleOf(parts), from: derivedFrom(parts), settings: settingsOf(parts) };
}

export function titleOf(parts: DesignParts): string {
  return String(parts[title] ?? '');
}

export function derivedFrom(parts: DesignParts): string | null {
  const key = parts[from] ?? null;
  return key === null ? null : String(key);
}

export function settingsOf(parts: DesignParts): DesignSettings {
  return Object.fromEntries(
    Object.entries(parts).flatMap(([name, value]) =>
      name === title || name === from || value === null || value === undefined ? [] : [[name, value]],
    ),
  );
}

export const titlePart = title;
export const fromPart = from;
