import { addressOfRoute, routes, type ImageFile, type Recording } from '@allomorph/core';

/** Where the server shows a picture. */
export function imageAddress(file: ImageFile): string {
  return addressOfRoute(routes.picture, { digest: file.digest });
}

/** Where the server plays a recording. */
export function recordingAddress({ digest }: Pick<Recording, 'digest'>): string {
  return addressOfRoute(routes.recording, { digest });
}
