const segmenters = new Map<string, Intl.Segmenter>();

/** How many words a text has, as its language tells them apart (Unicode, UAX 29, section 4). */
export function wordCount(text: string, language = 'en'): number {
  let segmenter = segmenters.get(language);
  if (!segmenter) segmenters.set(language, (segmenter = new Intl.Segmenter(language, { granularity: 'word' })));
  let count = 0;
  for (const { isWordLike } of segmenter.segment(text)) if (isWordLike) count += 1;
  return count;
}
