import type { ContentNode } from '@allomorph/core';

/** What was written and not saved. */
export interface Draft {
  readonly base: number;
  readonly title: string;
  readonly body: ContentNode;
}

const nameOf = (key: string): string => `allomorph.draft.${key}`;

/** Keeps what is being written in the browser, so that a closed window or a lost server loses nothing. */
export function keepDraft(key: string, draft: Draft): void {
  try {
    localStorage.setItem(nameOf(key), JSON.stringify(draft));
  } catch {
    // The browser's store is full or shut; the text still stands on the page.
  }
}

export function readDraft(key: string): Draft | null {
  try {
    const text = localStorage.getItem(nameOf(key));
    return text === null ? null : (JSON.parse(text) as Draft);
  } catch {
    return null;
  }
}

export function dropDraft(key: string): void {
  localStorage.removeItem(nameOf(key));
}
