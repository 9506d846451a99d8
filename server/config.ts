import proxyAddr from 'proxy-addr';
import * as z from 'zod';

const Environment = z.object({
  DATABASE_URL: z.string().regex(/^(mysql|mariadb):\/\//, 'must begin with mysql:// or mariadb://'),
  HOST: z.string().default('127.0.0.1'),
  PORT: z.coerce.number().int().min(0).max(65535).default(4300),
  LOG_LEVEL: z.enum(['debug', 'info', 'warn', 'error', 'silent']).default('info'),
  /** Connections kept to the database at most. */
  DATABASE_CONNECTIONS: z.coerce.number().int().min(1).max(200).default(12),
  /** Where people reach it, like `https://orders.example`; links that leave by mail or calendar begin with it. */
  PUBLIC_URL: z.url({ protocol: /^https?$/ }).optional(),
  /**
   * Proxies that are believed about whom a request came from: addresses, networks (`10.0.0.0/8`) or `loopback`, commas
   * between.
   */
  TRUSTED_PROXIES: z
    .string()
    .default('')
    .transform((text) => text.split(',').flatMap((each) => each.trim() || []))
    .refine((proxies) => proxies.every(isProxy), 'must be addresses, networks or loopback, commas between'),
  /** Set to `yes` behind HTTPS, so that cookies never travel in the clear; needless where `PUBLIC_URL` is one. */
  SECURE_COOKIE: z.enum(['yes', 'no']).default('no'),
  /** Set to `no` where another server of the same database does what is due by the clock. */
  JOBS: z.enum(['yes', 'no']).default('yes'),
  /**
   * Set to `yes` where tests run: every answer is held against its schema and fails where it says more or less. In use
   * answers are as the compiler checked them: holding a large one against its schema costs as much as reading it.
   */
  CHECK_ANSWERS: z.enum(['yes', 'no']).default('no'),
  /** How long what runs may take to finish when the server is told to end; what has not by then is cut off. */
  STOP_SECONDS: z.coerce.number().min(0.1).max(600).default(10),
  /** Reads, and acts, at work at once; files and sign-ins a quarter of it. */
  AT_WORK: z.coerce.number().int().min(1).max(1000).default(10),
  /** Requests of each kind that may wait for those at work: one more is answered 503 at once. */
  WAITING: z.coerce.number().int().min(0).max(10_000).default(30),
  /** Requests of one session, of each kind, at work or waiting: one more is answered 429. */
  AT_ONCE_EACH: z.coerce.number().int().min(1).max(10_000).default(16),
  /** Where figures are read by whoever collects them, at `/metrics`; nowhere where it is not set. */
  METRICS_PORT: z.coerce.number().int().min(0).max(65535).optional(),
  METRICS_HOST: z.string().default('127.0.0.1'),
  /** A session ends when its person did nothing for so long. */
  IDLE_MINUTES: z.coerce.number().min(0.01).max(720).default(30),
  /** All that is kept is checked against its documents so often, by one of the servers; 0 for never. */
  VERIFY_HOURS: z.coerce.number().min(0).max(1000).default(24),
  WEB_DIR: z.string().default('dist/web/browser'),
});

export type Config = z.infer<typeof Environment>;

/** Whether it is reached by HTTPS only. */
export const isSecure = ({ SECURE_COOKIE, PUBLIC_URL }: Config) =>
  SECURE_COOKIE === 'yes' || (PUBLIC_URL?.startsWith('https:') ?? false);

function isProxy(named: string): boolean {
  try {
    proxyAddr.compile(named);
    return true;
  } catch {
    return false;
  }
}

/** The configuration from the environment; throws one sentence that names every wrong variable. */
export function readConfig(environment: NodeJS.ProcessEnv): Config {
  const read = Environment.safeParse(environment);
  if (read.success) return read.data;
  const wrong = read.error.issues.map((issue) => `${issue.path.join('.')} ${issue.message}`);
  throw new Error(`The configuration cannot be used: ${wrong.join('; ')}.`);
}
