import type { Recording } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { nodeType } from './schema-types';

/** What a block says of the recording that it plays. */
export function attributesOf({ digest, mediaType, name }: Recording): Readonly<Record<string, unknown>> {
  return { recording: digest, mediaType, name, medium: mediaType.startsWith('audio/') ? 'audio' : 'video' };
}

/** A block that plays a recording, with a transcript to be written. */
export function mediaOf(recording: Recording): Node {
  return nodeType('media').create(attributesOf(recording), nodeType('paragraph').create());
}
