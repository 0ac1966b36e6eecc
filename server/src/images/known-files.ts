import type { ComponentBody, ImageBody, ImageFile } from '@allomorph/core';
import { isImageBody } from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';

/**
 * An image with what the bytes of its files say they are, whatever came with the request; other bodies as they are.
 * @throws HttpProblem 422 for a file that was never uploaded here
 */
export async function withKnownFiles(db: Queryable, workspace: string, body: ComponentBody): Promise<ComponentBody> {
  if (!isImageBody(body)) return body;
  const { rows } = await db.query<ImageFile>(
    `select digest, media_type as "mediaType", width, height from image_files where workspace = $1 and digest = any($2)`,
    [workspace, [body.file.digest, ...body.versions.map(({ file }) => file.digest)]],
  );
  const known = new Map(rows.map((row) => [row.digest, row]));
  const fileOf = ({ digest }: ImageFile): ImageFile => {
    const file = known.get(digest);
    if (!file) throw new HttpProblem(422, 'A file of this image is not in the library; upload it first.');
    return file;
  };
  const image: ImageBody = {
    ...body,
    file: fileOf(body.file),
    versions: body.versions.map((version) => ({ ...version, file: fileOf(version.file) })),
  };
  return image;
}
