import {
  isImageBody,
  isLinkBody,
  isVariableBody,
  mapNodes,
  textAttr,
  walk,
  type ComponentBody,
  type ContentNode,
  type ImageBody,
  type ImageFile,
} from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';

/**
 * A body with what the bytes of its files say they are, whatever came with the request: those of an image, and the
 * recordings of content.
 * @throws HttpProblem 422 for a file that was never uploaded here
 */
export async function withKnownFiles(db: Queryable, workspace: string, body: ComponentBody): Promise<ComponentBody> {
  if (isVariableBody(body) || isLinkBody(body)) return body;
  if (!isImageBody(body)) return withKnownRecordings(db, workspace, body);
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

async function withKnownRecordings(db: Queryable, workspace: string, body: ContentNode): Promise<ContentNode> {
  const digests = new Set<string>();
  walk(body, (node) => {
    const digest = node.type === 'media' ? textAttr(node, 'recording') : null;
    if (digest !== null) digests.add(digest);
  });
  if (digests.size === 0) return body;
  const { rows } = await db.query<{ digest: string; mediaType: string }>(
    'select digest, media_type as "mediaType" from recordings where workspace = $1 and digest = any($2)',
    [workspace, [...digests]],
  );
  const known = new Map(rows.map(({ digest, mediaType }) => [digest, mediaType]));
  return mapNodes(body, (node) => {
    const digest = node.type === 'media' ? textAttr(node, 'recording') : null;
    if (digest === null) return node;
    const mediaType = known.get(digest);
    if (mediaType === undefined)
      throw new HttpProblem(
        422,
        `The recording “${textAttr(node, 'name') ?? ''}” is not in the library; upload it first.`,
      );
    return { ...node, attrs: { ...node.attrs, mediaType } };
  });
}
