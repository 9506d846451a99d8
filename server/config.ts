import * as z from 'zod';

const Environment = z.object({
  DATABASE_URL: z.string().regex(/^(mysql|mariadb):\/\//, 'must begin with mysql:// or mariadb://'),
  HOST: z.string().default('127.0.0.1'),
  PORT: z.coerce.number().int().min(0).max(65535).default(4300),
  LOG_LEVEL: z.enum(['debug', 'info', 'warn', 'error', 'silent']).default('info'),
  /** Connections kept to the database at most. */
  DATABASE_CONNECTIONS: z.coerce.number().int().min(1).max(200).default(12),
  /** Set to `yes` behind HTTPS, so that the cookie never travels in the clear. */
  SECURE_COOKIE: z.enum(['yes', 'no']).default('no'),
  /** Set to `no` where another server of the same database does what is due by the clock. */
  JOBS: z.enum(['yes', 'no']).default('yes'),
  /**
   * Set to `yes` where tests run: every answer is held against its schema and fails where it says more or less. In use
   * answers are as the compiler checked them: holding a large one against its schema costs as much as reading it.
   */
  CHECK_ANSWERS: z.enum(['yes', 'no']).default('no'),
  WEB_DIR: z.string().default('dist/web/browser'),
});

export type Config = z.infer<typeof Environment>;

/** The configuration from the environment; throws one sentence that names every wrong variable. */
export function readConfig(environment: NodeJS.ProcessEnv): Config {
  const read = Environment.safeParse(environment);
  if (read.success) return read.data;
  const wrong = read.error.issues.map((issue) => `${issue.path.join('.')} ${issue.message}`);
  throw new Error(`The configuration cannot be used: ${wrong.join('; ')}.`);
}
