import { LRUCache } from 'lru-cache';
import { Memory, type FormatFile, type Source } from '@allomorph/core';
import { digestOf } from '../images/blobs.js';
import type { Packed } from './pack.js';
import type { KnownComponent } from '../library/components.js';

/** A file as it is stored. */
interface StoredForm {
  readonly digest: string;
  readonly size: number;
}

/** How many publications' components, and how many digests of stored files are kept. */
const mostLibraries = 12;
const mostStored = 200_000;
const mostWorkspaces = 4;
const mostPacked = 2_000;

/**
 * What a process keeps from one build to the next: what the engine assembled, the components that were read, and which files
 * are in the store already. Everything can be dropped at any time; the next build makes and reads it again.
 */
export class BuildMemory {
  private readonly memories = new LRUCache<string, Memory>({ max: mostWorkspaces });
  private readonly libraries = new LRUCache<string, Source['library']>({ max: mostLibraries });
  private readonly stored = new LRUCache<string, true>({ max: mostStored });
  private readonly packedBefore = new LRUCache<string, Packed>({ max: mostPacked });
  private forms = new WeakMap<FormatFile, StoredForm>();

  /** What the engine remembers of a workspace: keys name components within one only. */
  engine(workspace: string): Memory {
    let memory = this.memories.get(workspace);
    if (!memory) this.memories.set(workspace, (memory = new Memory()));
    return memory;
  }

  /** Finds components of a workspace that were read before. */
  known(workspace: string): KnownComponent {
    return (key, revision) => {
      for (const [place, library] of this.libraries.entries()) {
        const found = place.startsWith(`${workspace} `) ? library.revision(key, revision) : undefined;
        if (found) return found;
      }
      return undefined;
    };
  }

  /** Keeps the components of a publication. */
  keepLibrary(workspace: string, publication: string, library: Source['library']): void {
    this.libraries.set(`${workspace} ${publication}`, library);
  }

  /** The digest and size of a file, worked out once for files that stay the same objects. */
  form(file: FormatFile): StoredForm & { readonly bytes: Buffer | null } {
    const known = this.forms.get(file);
    if (known && this.stored.has(known.digest)) return { ...known, bytes: null };
    const bytes = Buffer.from(file.text);
    const form = { digest: digestOf(bytes), size: bytes.length };
    this.forms.set(file, form);
    return { ...form, bytes: this.stored.has(form.digest) ? null : bytes };
  }

  /** What was handed over for a rendition before, where all of it is in the store. */
  packed(name: string): Packed | undefined {
    const packed = this.packedBefore.get(name);
    return packed?.files.every(({ digest }) => this.stored.has(digest)) ? packed : undefined;
  }

  keepPacked(name: string, packed: Packed): void {
    this.packedBefore.set(name, { ...packed, files: packed.files.map((file) => ({ ...file, bytes: null })) });
  }

  /** Takes down that files are not in the store any more: deliverables that nobody needs are taken out of it. */
  forgetStored(digests: Iterable<string>): void {
    for (const digest of digests) this.stored.delete(digest);
  }

  /** Takes down that files with these digests are in the store. */
  keepStored(digests: Iterable<string>): void {
    for (const digest of digests) this.stored.set(digest, true);
  }
}
