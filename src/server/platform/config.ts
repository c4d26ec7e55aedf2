import { z } from 'zod';
import type { Instant } from '../../core/measure';
import { addressesOf } from './hosts';

export interface Config {
  readonly databaseUrl: string;
  readonly host: string;
  readonly port: number;
  /** Where the built application lies; null when another server (Vite) serves it. */
  readonly webRoot: string | null;
  /** A register that stands still at this moment, for pictures and tests. */
  readonly fixedNow: Instant | null;
  /** Behind a TLS proxy: cookies are marked secure and the proxy's headers are believed. */
  readonly behindTls: boolean;
  /** Files of a certificate of one's own: the server speaks HTTPS by itself. */
  readonly tls: {
    readonly certificate: string;
    readonly key: string;
    readonly authority: string | null;
  } | null;
  /** The file of the key that signs checkpoints, made there when it is missing; null for none. */
  readonly signingKey: string | null;
  /** Where checkpoints are put as files, too: another disk, another machine. */
  readonly checkpoints: string | null;
  /** Where checkpoints are sent by mail, too: the mail server's address, who the letters are from and to; null for nowhere. */
  readonly mail: {
    readonly server: string;
    readonly from: string;
    readonly to: readonly string[];
  } | null;
  /** Where figures of this process and its health are told, apart from what browsers reach; null for nowhere. */
  readonly metrics: { readonly host: string; readonly port: number } | null;
  /** With less than this left on the database's disk nothing is written, megabytes. */
  readonly leastSpaceMb: number;
  readonly logLevel: string;
  /** Whether answers are held against the contract before they are sent; for tests. */
  readonly checksAnswers: boolean;
}

const METRICS_FORM = 'MALLE_METRICS must be a port, or an address and a port like 127.0.0.1:9464.';

const mailAddress = (name: string) =>
  z.email({ error: `${name} must hold addresses like checkpoints@example.org.` });

const environment = z
  .object({
    DATABASE_URL: z.string().refine((text) => addressesOf(text).every(isPostgresAddress), {
      error: 'DATABASE_URL must be a postgres:// address.',
    }),
    MALLE_HOST: z.string().default('127.0.0.1'),
    MALLE_PORT: z.coerce.number().int().min(0).max(65_535).default(4180),
    MALLE_WEB_ROOT: z.string().optional(),
    MALLE_CLOCK: z.iso
      .datetime({ offset: true, error: 'MALLE_CLOCK must be a moment like 2026-03-02T19:00:00Z.' })
      .optional(),
    MALLE_TLS: z.enum(['0', '1']).default('0'),
    MALLE_CERTIFICATE: z.string().optional(),
    MALLE_KEY: z.string().optional(),
    MALLE_AUTHORITY: z.string().optional(),
    MALLE_SIGNING_KEY: z.string().optional(),
    MALLE_CHECKPOINTS: z.string().optional(),
    MALLE_MAIL: z
      .url({ protocol: /^smtps?$/, error: 'MALLE_MAIL must be an smtp:// or smtps:// address.' })
      .optional(),
    MALLE_MAIL_FROM: mailAddress('MALLE_MAIL_FROM').optional(),
    MALLE_MAIL_TO: z
      .string()
      .transform((text) => text.split(',').map((one) => one.trim()))
      .pipe(z.array(mailAddress('MALLE_MAIL_TO')).max(20, 'MALLE_MAIL_TO takes twenty addresses.'))
      .optional(),
    MALLE_PLAIN_HTTP: z.enum(['0', '1']).default('0'),
    MALLE_METRICS: z
      .string()
      .regex(/^(.+:)?\d{1,5}$/, METRICS_FORM)
      .refine((text) => Number(text.slice(text.lastIndexOf(':') + 1)) <= 65_535, METRICS_FORM)
      .optional(),
    MALLE_LEAST_SPACE_MB: z.coerce.number().int().min(0).max(10_000_000).default(200),
    MALLE_CHECK: z.enum(['0', '1']).default('0'),
    MALLE_LOG: z.enum(['silent', 'error', 'warn', 'info', 'debug']).default('info'),
  })
  .refine((set) => !set.MALLE_MAIL === !set.MALLE_MAIL_FROM && !set.MALLE_MAIL === !set.MALLE_MAIL_TO, {
    path: ['MALLE_MAIL'],
    message: 'MALLE_MAIL, MALLE_MAIL_FROM and MALLE_MAIL_TO go together.',
  })
  .refine((set) => !set.MALLE_MAIL || set.MALLE_SIGNING_KEY !== undefined, {
    path: ['MALLE_SIGNING_KEY'],
    message: 'Checkpoints that go out by mail are signed: MALLE_SIGNING_KEY is missing.',
  })
  .refine((set) => (set.MALLE_CERTIFICATE === undefined) === (set.MALLE_KEY === undefined), {
    path: ['MALLE_KEY'],
    message: 'MALLE_CERTIFICATE and MALLE_KEY go together.',
  })
  .refine(
    (set) =>
      isLoopback(set.MALLE_HOST) ||
      set.MALLE_CERTIFICATE !== undefined ||
      set.MALLE_TLS === '1' ||
      set.MALLE_PLAIN_HTTP === '1',
    {
      path: ['MALLE_HOST'],
      message:
        'Others would reach this server over plain HTTP, and passwords can be read on the way. Give MALLE_CERTIFICATE and MALLE_KEY (npm run certificate makes them), or MALLE_TLS=1 behind a proxy that speaks HTTPS, or MALLE_PLAIN_HTTP=1 if that is meant.',
    },
  );

function isPostgresAddress(text: string): boolean {
  return z.url({ protocol: /^postgres(ql)?$/ }).safeParse(text).success;
}

/** Whether only this machine reaches an address. */
export function isLoopback(host: string): boolean {
  return host === 'localhost' || host === '::1' || host === '[::1]' || /^127(\.\d{1,3}){3}$/.test(host);
}

/** Reads the settings from environment variables. Throws one readable error naming every setting that is wrong. */
export function configFrom(env: NodeJS.ProcessEnv): Config {
  const parsed = environment.safeParse(env);
  if (!parsed.success) throw new Error(`Cannot start:\n${z.prettifyError(parsed.error)}`);
  const value = parsed.data;
  return {
    databaseUrl: value.DATABASE_URL,
    host: value.MALLE_HOST,
    port: value.MALLE_PORT,
    webRoot: value.MALLE_WEB_ROOT ?? null,
    fixedNow: value.MALLE_CLOCK ? Date.parse(value.MALLE_CLOCK) : null,
    behindTls: value.MALLE_TLS === '1',
    tls:
      value.MALLE_CERTIFICATE && value.MALLE_KEY
        ? {
            certificate: value.MALLE_CERTIFICATE,
            key: value.MALLE_KEY,
            authority: value.MALLE_AUTHORITY ?? null,
          }
        : null,
    signingKey: value.MALLE_SIGNING_KEY ?? null,
    checkpoints: value.MALLE_CHECKPOINTS ?? null,
    mail:
      value.MALLE_MAIL && value.MALLE_MAIL_FROM && value.MALLE_MAIL_TO
        ? { server: value.MALLE_MAIL, from: value.MALLE_MAIL_FROM, to: value.MALLE_MAIL_TO }
        : null,
    metrics: value.MALLE_METRICS === undefined ? null : addressOf(value.MALLE_METRICS),
    leastSpaceMb: value.MALLE_LEAST_SPACE_MB,
    checksAnswers: value.MALLE_CHECK === '1',
    logLevel: value.MALLE_LOG,
  };
}

/** A port alone is told to this machine only. */
function addressOf(text: string): { readonly host: string; readonly port: number } {
  const colon = text.lastIndexOf(':');
  return { host: colon < 0 ? '127.0.0.1' : text.slice(0, colon), port: Number(text.slice(colon + 1)) };
}
