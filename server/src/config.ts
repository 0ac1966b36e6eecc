import { availableParallelism } from 'node:os';
import * as z from 'zod';

const yesNo = z.enum(['yes', 'no']).transform((value) => value === 'yes');
const wholeNumber = z.coerce.number().int();
const origin = z
  .url({ protocol: /^https?$/ })
  .transform((value) => new URL(value))
  .refine((url) => url.pathname === '/' && url.search === '', 'an address without a path is needed')
  .transform((url) => url.origin);

/** Everything that the environment may set, each with what holds without it. The README lists the same. */
const environmentSchema = z.object({
  DATABASE_URL: z.url({ protocol: /^postgres(ql)?$/, error: 'a postgres:// address is needed; “npm start” sets it' }),
  PORT: wholeNumber.min(1).max(65_535).default(4600),
  HOST: z.string().min(1).default('127.0.0.1'),
  ALLOMORPH_DEMO: yesNo.default(true),
  ALLOMORPH_ORIGIN: origin.optional(),
  ALLOMORPH_DELIVERABLES_ORIGIN: origin.optional(),
  ALLOMORPH_PROXIES: wholeNumber.min(0).max(10).default(0),
  ALLOMORPH_IDLE_HOURS: z.coerce.number().positive().max(8760).default(12),
  ALLOMORPH_SESSION_HOURS: z.coerce.number().positive().max(8760).default(168),
  ALLOMORPH_THREADS: wholeNumber.min(1).max(64).optional(),
  ALLOMORPH_LOG: z.enum(['fatal', 'error', 'warn', 'info', 'debug', 'silent']).default('info'),
  ALLOMORPH_METRICS_TOKEN: z.string().min(16, 'at least sixteen signs are needed').optional(),
});

/** How this process is set up. */
export interface Config {
  readonly databaseUrl: string;
  readonly port: number;
  readonly host: string;
  /** What a new database begins with. */
  readonly content: 'demo' | 'empty';
  /** Under which address people reach the application. */
  readonly origin: string;
  /** Under which address deliverables are read; the application's own where there is no other. */
  readonly deliverablesOrigin: string;
  /** How many proxies stand in front: whose word on the address of a caller counts. */
  readonly proxies: number;
  /** Cookies go over TLS only. */
  readonly secureCookies: boolean;
  readonly idleHours: number;
  readonly sessionHours: number;
  /** How many threads work out what takes long. */
  readonly threads: number;
  readonly logLevel: string;
  /** With which token others than this machine may read the metrics. */
  readonly metricsToken: string | null;
}

/** A setting that cannot be used, told in one sentence. */
export class ConfigFault extends Error {}

/**
 * Reads and checks the settings of a process, once.
 * @throws ConfigFault that names the first setting that cannot be used
 */
export function readConfig(environment: Readonly<Record<string, string | undefined>>): Config {
  // A variable that is set to nothing is not set.
  const given = Object.fromEntries(Object.entries(environment).filter(([, value]) => value !== ''));
  const parsed = environmentSchema.safeParse(given);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw new ConfigFault(`The setting ${issue?.path.join('.')} cannot be used: ${issue?.message}.`);
  }
  const set = parsed.data;
  const ownOrigin = set.ALLOMORPH_ORIGIN ?? `http://${set.HOST.includes(':') ? `[${set.HOST}]` : set.HOST}:${set.PORT}`;
  return {
    databaseUrl: set.DATABASE_URL,
    port: set.PORT,
    host: set.HOST,
    content: set.ALLOMORPH_DEMO ? 'demo' : 'empty',
    origin: ownOrigin,
    deliverablesOrigin: set.ALLOMORPH_DELIVERABLES_ORIGIN ?? ownOrigin,
    proxies: set.ALLOMORPH_PROXIES,
    secureCookies: ownOrigin.startsWith('https:'),
    idleHours: set.ALLOMORPH_IDLE_HOURS,
    sessionHours: set.ALLOMORPH_SESSION_HOURS,
    threads: set.ALLOMORPH_THREADS ?? Math.max(2, availableParallelism() - 1),
    logLevel: set.ALLOMORPH_LOG,
    metricsToken: set.ALLOMORPH_METRICS_TOKEN ?? null,
  };
}

/** The settings of this process; ends it with the one sentence where they cannot be used. */
export function configOfProcess(): Config {
  try {
    return readConfig(process.env);
  } catch (error) {
    if (!(error instanceof ConfigFault)) throw error;
    console.error(error.message);
    process.exit(1);
  }
}
