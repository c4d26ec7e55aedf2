import type { Response } from 'express';
import { Client } from 'pg';
import type { LiveMessage, PackChanged, PackRow } from '../../contract';
import type { Entities, Statement } from './database';
import { connectionTo } from './hosts';
import type { PackId, PersonId } from '../../core/measure';
import type { Log } from './log';

const CHANNEL = 'malle_live';
const HEARTBEAT_MS = 20_000;
const RECONNECT_MS = 1_000;
/** Some thousand messages, of which each may be a pack's row. */
const MOST_UNREAD_BYTES = 1024 * 1024;
/** So long changed packs are gathered, to be read together. */
const GATHER_MS = 20;
/** Of more packs at once no rows are told: a page then asks for its list anew. */
const MOST_ROWS = 50;

/** Tells every server process, once this transaction is committed, that something changed. */
export async function announce(em: Entities, message: LiveMessage): Promise<void> {
  const { sql, params } = announcementOf(message);
  await em.execute(sql, params);
}

/** The same as SQL, to be one statement with what is announced. */
export function announcementOf(message: LiveMessage): Statement {
  return { sql: 'select pg_notify(?, ?)', params: [CHANNEL, JSON.stringify(message)] };
}

/** Who listens, and whether they still may. */
export interface Listener {
  readonly personId: PersonId;
  mayListen(): Promise<boolean>;
}

export interface Live {
  /** Keeps a response open and writes every message to it as a server-sent event, until the browser goes or may not listen any more. */
  stream(res: Response, listener: Listener): Promise<void>;
  /** Tells this process itself, until the function it returns is called. */
  listen(hear: (message: LiveMessage) => void): () => void;
  /** How many browsers listen. */
  streams(): number;
  close(): Promise<void>;
}

/**
 * Passes what any process announces on to the browsers connected to this one. When the database connection is lost it
 * reconnects and says `register`, because messages may have been missed meanwhile.
 * @param rowsOf what lists show of packs: read once here, where every page would ask for the same
 */
export async function openLive(
  databaseUrl: string,
  log: Log,
  rowsOf: (ids: readonly PackId[]) => Promise<readonly PackRow[]>,
): Promise<Live> {
  const listeners = new Map<Response, Listener>();
  const hearers = new Set<(message: LiveMessage) => void>();
  let client: Client | null = null;
  let closed = false;

  /** A browser that does not read is let go: when it comes back it asks for everything anew, and nothing piles up for it here. */
  const tell = (event: string) => {
    for (const res of listeners.keys()) {
      if (res.writableLength > MOST_UNREAD_BYTES) res.destroy();
      else res.write(event);
    }
  };
  /** Ends the streams of a person whose session is over; a browser that comes back is asked to sign in. */
  const endStreamsOf = async (personId: PersonId) => {
    for (const [res, listener] of listeners) {
      if (listener.personId !== personId) continue;
      const may = await listener.mayListen().catch(() => false);
      if (!may) res.end();
    }
  };
  const changed = new Map<PackId, PackChanged>();
  let gathering: NodeJS.Timeout | undefined;
  const tellChanged = async () => {
    gathering = undefined;
    const messages = [...changed.values()];
    changed.clear();
    if (listeners.size === 0) return;
    const rows = new Map<PackId, PackRow>();
    if (messages.length <= MOST_ROWS) {
      // Without rows a page asks for them.
      const read = await rowsOf(messages.map(({ packId }) => packId)).catch(() => []);
      for (const row of read) rows.set(row.id, row);
    }
    for (const message of messages) {
      const row = rows.get(message.packId);
      tell(`data: ${JSON.stringify({ ...message, ...(row ? { row } : {}) } satisfies PackChanged)}\n\n`);
    }
  };
  const broadcast = (data: string) => {
    if (data === '') return;
    const message = JSON.parse(data) as LiveMessage;
    if (message.about === 'access') return void endStreamsOf(message.personId);
    for (const hear of hearers) hear(message);
    if (message.about !== 'pack') return tell(`data: ${data}\n\n`);
    changed.set(message.packId, message);
    gathering ??= setTimeout(() => void tellChanged(), GATHER_MS);
  };
  const connect = async (): Promise<void> => {
    const next = new Client(connectionTo(databaseUrl));
    next.on('notification', ({ payload }) => broadcast(payload ?? ''));
    next.on('error', (err) => log.warn({ err }, 'Live connection to the database lost'));
    await next.connect();
    await next.query(`listen ${CHANNEL}`);
    // Closing may have begun while this connection was on its way.
    if (closed) return next.end();
    // Only now: a connection that never came up is retried by whoever asked for it.
    next.on('end', () => void reconnect());
    client = next;
  };
  const reconnect = async (): Promise<void> => {
    if (closed) return;
    await new Promise((resolve) => setTimeout(resolve, RECONNECT_MS));
    if (closed) return;
    try {
      await connect();
      broadcast(JSON.stringify({ about: 'register' } satisfies LiveMessage));
    } catch {
      void reconnect();
    }
  };

  await connect();
  const heartbeat = setInterval(() => {
    tell('event: beat\ndata:\n\n');
  }, HEARTBEAT_MS);

  return {
    stream: (res, listener) => {
      res.writeHead(200, {
        'content-type': 'text/event-stream',
        'cache-control': 'no-cache, no-transform',
        connection: 'keep-alive',
        'x-accel-buffering': 'no',
      });
      res.write('retry: 1500\n\n');
      listeners.set(res, listener);
      return new Promise((ended) => {
        res.on('close', () => {
          listeners.delete(res);
          ended();
        });
      });
    },
    listen: (hear) => {
      hearers.add(hear);
      return () => void hearers.delete(hear);
    },
    streams: () => listeners.size,
    close: async () => {
      closed = true;
      clearInterval(heartbeat);
      clearTimeout(gathering);
      for (const res of listeners.keys()) res.end();
      listeners.clear();
      await client?.end();
    },
  };
}
