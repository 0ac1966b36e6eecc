import type { OtherSite, SiteData } from '../../core/src/output/web/site-data.js';

declare global {
  interface Window {
    /** What all pages of the site share; from `contents.js`. */
    siteData?: SiteData;
    /** Other variants that lie beside the site; from `others.js`. */
    siteOthers?: readonly OtherSite[];
    /** The index for searching, as JSON; from `search.js`, once it is wanted. */
    siteSearch?: string;
    /** What the terms of the glossary mean; from `glossary.js`, once it is wanted. */
    siteGlossary?: readonly string[];
  }
}

/** What all pages share; undefined where that file is missing. */
export const site = window.siteData;

/** Makes an element. */
export function make<Tag extends keyof HTMLElementTagNameMap>(
  tag: Tag,
  attributes: Readonly<Record<string, string>> = {},
  ...children: readonly (Node | string)[]
): HTMLElementTagNameMap[Tag] {
  const element = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes)) element.setAttribute(name, value);
  element.append(...children);
  return element;
}

/** The file of the page at hand; the start page where the address names a folder. */
export function ownFile(): string {
  return decodeURIComponent(location.pathname.split('/').at(-1) ?? '') || 'index.html';
}
