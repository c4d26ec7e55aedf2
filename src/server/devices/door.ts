import type { IncomingMessage } from 'node:http';
import type { Duplex } from 'node:stream';
import { WebSocketServer } from 'ws';
import type { Api } from '../platform/http';
import type { Live } from '../platform/live';
import type { Log } from '../platform/log';
import { Conversation } from './conversation';

/** Where instruments knock. */
export const DOOR = '/api/instruments';

const BEAT_MS = 20_000;
/** A message is a line or a few; nothing an instrument says comes near. */
const LARGEST_MESSAGE = 64 * 1024;
/** So many messages of one device wait for the database; a device that goes on is sent away. */
const MOST_WAITING = 500;

export interface Door {
  upgrade(req: IncomingMessage, socket: Duplex, head: Buffer): void;
  close(): Promise<void>;
}

/** The door for instruments: a WebSocket through which each device holds a conversation with the register. */
export function openDoor({ database, clock }: Api, live: Live, log: Log): Door {
  const server = new WebSocketServer({ noServer: true, maxPayload: LARGEST_MESSAGE });
  const conversations = new Set<Conversation>();
  const here = {
    entities: () => database.entities(),
    now: () => clock.now(),
    elapsed: () => performance.now(),
  };

  server.on('connection', (socket) => {
    const conversation = new Conversation(
      here,
      (line) => socket.send(JSON.stringify(line)),
      () => socket.close(1000),
    );
    conversations.add(conversation);
    let waiting = 0;
    // One after the other: a device's lines mean something in their order only.
    let queue = Promise.resolve();
    const then = (work: () => Promise<void>) => {
      queue = queue.then(work).catch((err: unknown) => {
        log.warn({ err }, 'A line of a device could not be taken');
        // Closed without an end, so that the device comes again and sends what was not taken.
        socket.close(1011);
      });
    };
    let isAlive = true;
    const beat = setInterval(() => {
      if (!isAlive) return socket.terminate();
      isAlive = false;
      socket.ping();
      then(() => conversation.beat());
    }, BEAT_MS);
    socket.on('pong', () => (isAlive = true));
    socket.on('message', (data, isBinary) => {
      if (isBinary) return conversation.end('Send text, one JSON object a line.');
      if (waiting >= MOST_WAITING)
        return conversation.end('Too many lines wait. Send the newest of each second.');
      waiting += 1;
      then(async () => {
        waiting -= 1;
        await conversation.hear((data as Buffer).toString('utf8'));
      });
    });
    socket.on('error', (err) => log.debug({ err }, 'A device’s connection failed'));
    socket.on('close', () => {
      clearInterval(beat);
      conversations.delete(conversation);
      then(() => conversation.gone());
    });
  });

  const endListening = live.listen((message) => {
    for (const conversation of conversations) {
      if (message.about === 'devices') void conversation.lookAgain().catch(() => undefined);
      if (message.about === 'stop' && message.deviceId === conversation.deviceId)
        conversation.stop(message.channel, message.why);
      if (message.about === 'write' && message.deviceId === conversation.deviceId)
        conversation.write(message.line);
    }
  });

  return {
    upgrade: (req, socket, head) => {
      const { pathname } = new URL(req.url ?? '/', 'http://localhost');
      // Every browser says where its page comes from, and no instrument does.
      if (req.headers.origin !== undefined) return void socket.end('HTTP/1.1 403 Forbidden\r\n\r\n');
      if (pathname !== DOOR) return void socket.end('HTTP/1.1 404 Not Found\r\n\r\n');
      server.handleUpgrade(req, socket, head, (ws) => server.emit('connection', ws, req));
    },
    close: async () => {
      endListening();
      for (const client of server.clients) client.terminate();
      await new Promise<void>((done) => server.close(() => done()));
    },
  };
}
