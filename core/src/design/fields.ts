/** What texts of a design can name besides variables: what the publication is, and where on the paper the text stands. */
export const publicationFields = ['title', 'variant', 'date', 'language'] as const;
export const pageFields = ['chapter', 'section', 'page', 'pages'] as const;
export type PublicationField = (typeof publicationFields)[number];
export type PageField = (typeof pageFields)[number];

/** A text of a design in parts: what stands as it is, the fields, and the keys of variables. */
export type DesignTextPart = string | { readonly field: PublicationField | PageField } | { readonly variable: string };

/** A text whose variables have been read: only fields that each page knows are left. */
export type ResolvedText = readonly (string | { readonly f: PageField })[];

const expression = /\{([^{}\s]+)\}/g;
/** What braces in the texts of a design name besides variables. */
export const designFieldNames: readonly string[] = [...publicationFields, ...pageFields];

/** The parts of a text: `{title}` and its like are fields, any other name in braces is the key of a variable. */
export function partsOfText(text: string): readonly DesignTextPart[] {
  const parts: DesignTextPart[] = [];
  let end = 0;
  for (const { 0: whole, 1: name = '', index } of text.matchAll(expression)) {
    if (index > end) parts.push(text.slice(end, index));
    // What is among the fields is one of them.
    // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
    parts.push(designFieldNames.includes(name) ? { field: name as PublicationField | PageField } : { variable: name });
    end = index + whole.length;
  }
  if (end < text.length) parts.push(text.slice(end));
  return parts;
}

/** A text without what only pages know. */
export function staticText(text: ResolvedText): string {
  return text
    .filter((part) => typeof part === 'string')
    .join('')
    .trim();
}

export function isPageField(name: string): name is PageField {
  return pageFields.some((field) => field === name);
}
