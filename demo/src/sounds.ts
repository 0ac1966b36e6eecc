import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { makeNode, type ContentNode } from '@allomorph/core';
import { ownFile } from '../../server/src/own-file.js';
import { p } from './content.js';

/** Where the sounds of the demo library lie. */
export const soundFile = (name: string): string => fileURLToPath(ownFile(`demo/src/sounds/${name}`));

export const sounds = ['alarm.wav'] as const;

/** A block that plays a sound, with what is heard in words. */
export function sound(name: (typeof sounds)[number], heard: string): ContentNode {
  const recording = createHash('sha256')
    .update(readFileSync(soundFile(name)))
    .digest('hex');
  return makeNode('media', { medium: 'audio', recording, mediaType: 'audio/wav', name }, [p(heard)]);
}
