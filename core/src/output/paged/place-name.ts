/** What the places of a paged document are called. */
export function placeName({ page, anchor }: { readonly page: string; readonly anchor: string | null }): string {
  return anchor === null ? page : `${page}#${anchor}`;
}

/** What links to places of the document begin with, until the document is made and each place lies somewhere. */
export const placeScheme = 'place:';
