import { pageFields, publicationFields } from './fields.js';
import type { DesignSettings } from './resolve.js';
import { settingOf } from './settings.js';

/** What braces in the texts of a design name besides variables. */
export const designFieldNames: readonly string[] = [...publicationFields, ...pageFields];

/** Settings in which whatever refers to a component by its key does so by another one: pictures, snippets, variables in texts. */
export function settingsWithKey(own: DesignSettings, from: string, to: string): DesignSettings {
  return Object.fromEntries(
    Object.entries(own).map(([name, value]) => {
      const { setting } = settingOf(name) ?? {};
      if (typeof value !== 'string' || !setting) return [name, value];
      if (setting.kind === 'component') return [name, value === from ? to : value];
      const hasVariables = setting.kind === 'text' && (setting.fields === 'publication' || setting.fields === 'page');
      return [name, hasVariables ? value.replaceAll(`{${from}}`, `{${to}}`) : value];
    }),
  );
}
