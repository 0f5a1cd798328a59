import * as z from 'zod';

const settings = z.object({
  KEEN_MORTAR_PORT: z.coerce.number().int().min(0).max(65535).default(4310),
  /** Running account: may read and add, nothing else. */
  KEEN_MORTAR_DATABASE_URL: z.url(),
  /** Folder of the built page; none in tests of the server alone. */
  KEEN_MORTAR_WEB: z.string().optional(),
  KEEN_MORTAR_LOG: z.enum(['silent', 'error', 'warn', 'info', 'debug']).default('info'),
});

export interface Config {
  readonly port: number;
  readonly databaseUrl: string;
  readonly web: string | undefined;
  readonly log: 'silent' | 'error' | 'warn' | 'info' | 'debug';
}

/** Settings from the environment. Throws one sentence that names what is wrong. */
export function configFrom(env: NodeJS.ProcessEnv): Config {
  const parsed = settings.safeParse(env);
  if (!parsed.success) {
    throw new Error(parsed.error.issues.map((issue) => `${issue.path.join('.')}: ${issue.message}`).join('; '));
  }
  const s = parsed.data;
  return { port: s.KEEN_MORTAR_PORT, databaseUrl: s.KEEN_MORTAR_DATABASE_URL, web: s.KEEN_MORTAR_WEB, log: s.KEEN_MORTAR_LOG };
}
