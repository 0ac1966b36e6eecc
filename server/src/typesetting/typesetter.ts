import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { ownFile } from '../own-file.js';
import { leadLinks, withoutLinks, type LaidPlace } from './lead-links.js';
import { paperFonts } from './paper-fonts.js';

/** A document to be typeset: the file `main.typ`, and what it reads. */
export interface TypesetJob {
  readonly files: readonly { readonly path: string; readonly bytes: Uint8Array }[];
  /** Fonts besides those that come with the application. */
  readonly fonts: readonly { readonly digest: string; readonly bytes: Uint8Array }[];
  /** A standard that the document is to keep, such as `ua-1`; `drawing`: it is drawn for the screen instead. */
  readonly standard: string;
  /** When the document was made, in seconds since 1970. */
  readonly timestamp: number;
}

export interface TypesetDocument {
  /** The document, or the drawing of its pages one below the other (SVG). */
  readonly pdf: Buffer;
  readonly pages: number;
  /** Why the document does not claim to keep the standard; empty: it does. */
  readonly against: readonly string[];
  /** What it took: time of the processor, and the most memory that the process ever held. */
  readonly cost: { readonly cpuSeconds: number; readonly peakMegabytes: number };
}

/** The typesetter refused a document. */
export class TypesettingFailed extends Error {
  override readonly name = 'TypesettingFailed';
}

type Answer = Pick<TypesetDocument, 'cost'> & { readonly resident: number } & (
    | {
        readonly pdf: Uint8Array;
        readonly pages: number;
        readonly places: readonly LaidPlace[];
        readonly against: readonly string[];
      }
    | { readonly failed: readonly string[] }
  );

export interface TypesetterLimits {
  /** After so long a document is given up. */
  readonly seconds: number;
  /** A process that holds more is replaced: what it remembers grows with every document. */
  readonly megabytes: number;
}

/**
 * Typesets documents in a process of its own, one after the other: a document that takes too long or too much ends that
 * process and nothing else. The process stays, as it remembers what it laid out.
 */
export class Typesetter {
  private child: ChildProcess | null = null;
  private last: Promise<unknown> = Promise.resolve();

  constructor(private readonly limits: TypesetterLimits = { seconds: 600, megabytes: 1500 }) {}

  /** @throws TypesettingFailed where the document cannot be typeset, with what the typesetter says */
  typeset(job: TypesetJob): Promise<TypesetDocument> {
    const next = this.last.then(() => this.run(job));
    this.last = next.catch(() => undefined);
    return next;
  }

  stop(): void {
    this.child?.kill('SIGKILL');
    this.child = null;
  }

  private async run(job: TypesetJob): Promise<TypesetDocument> {
    const child = (this.child ??= begin());
    const answer = await this.answerOf(child, job);
    if (answer.resident > this.limits.megabytes * 1e6) this.stop();
    if ('failed' in answer) throw new TypesettingFailed(`The document cannot be typeset: ${answer.failed.join('; ')}`);
    const { places, cost, pages, against } = answer;
    const made = Buffer.from(answer.pdf.buffer, answer.pdf.byteOffset, answer.pdf.byteLength);
    return { pdf: job.standard === 'drawing' ? withoutLinks(made) : leadLinks(made, places), pages, against, cost };
  }

  private answerOf(child: ChildProcess, job: TypesetJob): Promise<Answer> {
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => {
        this.stop();
        reject(new TypesettingFailed(`The document was not typeset within ${this.limits.seconds} seconds.`));
      }, this.limits.seconds * 1000);
      const gone = (): void => {
        clearTimeout(timer);
        if (this.child === child) this.child = null;
        reject(new TypesettingFailed('The process that typesets documents ended, as it does when memory runs out.'));
      };
      child.once('exit', gone);
      child.once('message', (answer) => {
        clearTimeout(timer);
        child.off('exit', gone);
        // What our own process sends.
        // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
        resolve(answer as Answer);
      });
      child.send({ job });
    });
  }
}

function begin(): ChildProcess {
  const child = fork(fileURLToPath(ownFile('server/src/typesetting/typeset-child.mjs')), {
    serialization: 'advanced',
    execArgv: [],
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  child.send({ fonts: paperFonts });
  // It does not keep the process alive that began it.
  child.unref();
  child.channel?.unref();
  return child;
}
