/** What the places of a paged document are called. */
export function placeName({ page, anchor }: { readonly page: string; readonly anchor: string | null }): string {
  return anchor === null ? page : `${page}#${anchor}`;
}
