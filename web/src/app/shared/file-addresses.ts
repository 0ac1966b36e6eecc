import { addressOfRoute, routes, type ImageFile } from '@allomorph/core';

/** Where the server shows a picture. */
export function imageAddress(file: ImageFile): string {
  return addressOfRoute(routes.picture, { digest: file.digest });
}
