import type { CheckKind } from '@allomorph/core';

/** What checks are called, and what they look for. */
export const checkTitles: Readonly<Record<CheckKind, readonly [title: string, about: string]>> = {
  'alternative-text': ['Alternative text', 'Pictures that say nothing to readers who cannot see them.'],
  'heading-depth': ['Depth of headings', 'Sections that stand too deep in each other to be found.'],
  'empty-section': ['Empty sections', 'Sections without a title, or with a title and nothing below.'],
  'words-to-avoid': ['Words to avoid', 'Words that the team does not use, with better ones.'],
  'long-sentence': ['Long sentences', 'Sentences that readers have to read twice.'],
  'step-without-act': [
    'Steps without an act',
    'Steps that say how something is instead of what to do (English, German).',
  ],
  'late-warning': ['Late warnings', 'Warnings that stand behind the act that they warn of.'],
};
