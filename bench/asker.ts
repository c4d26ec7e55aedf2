import { request } from 'node:http';
import type { IncomingMessage } from 'node:http';
import { v7 as newId } from 'uuid';
import { DELTA_IM } from '../src/contract';

/** Asks the server as a signed-in page does, and counts the bytes as they were sent. */
export class SignedInAsker {
  bytes = 0;

  private constructor(
    readonly base: string,
    readonly cookie: string,
  ) {}

  /** As one of the people of a made-up register, by their id or as the first of a role. */
  static async at(url: string, who = 'custodian'): Promise<SignedInAsker> {
    const base = `${url}/api`;
    const people = (await (await fetch(`${base}/session`)).json()) as {
      demoPeople: readonly { id: string; role: string }[];
    };
    const signIn = await fetch(`${base}/session/demo`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: url },
      body: JSON.stringify({
        personId: people.demoPeople.find(({ id, role }) => who === id || who === role)!.id,
      }),
    });
    return new SignedInAsker(base, signIn.headers.get('set-cookie')!.split(';')[0]!);
  }

  /** @param known what the browser calls the answer it has */
  open(path: string, known?: string): Promise<IncomingMessage> {
    return new Promise((answered, failed) => {
      const headers = {
        cookie: this.cookie,
        'accept-encoding': 'gzip, deflate, br',
        ...(known ? { 'if-none-match': known, 'a-im': DELTA_IM } : {}),
      };
      const asked = request(`${this.base}${path}`, { headers }, answered);
      asked.once('error', failed);
      asked.end();
    });
  }

  /** Answers what the register calls the answer. */
  async get(path: string, known?: string): Promise<string | undefined> {
    const answer = await this.open(path, known);
    for await (const part of answer) this.bytes += (part as Buffer).length;
    return answer.headers.etag;
  }

  async json(path: string): Promise<unknown> {
    return (await fetch(`${this.base}${path}`, { headers: { cookie: this.cookie } })).json();
  }

  async append(packId: string): Promise<void> {
    const note = {
      kind: 'note',
      id: newId(),
      at: Date.now() - 1_000,
      payload: { text: 'a note' },
      supersedes: null,
    };
    await this.send('POST', '/records', { packId, records: [note] });
  }

  async editType(): Promise<void> {
    const { types } = (await this.json('/register')) as { types: readonly Record<string, unknown>[] };
    const { id, ...type } = types[0]!;
    await this.send('PUT', `/pack-types/${id as string}`, {
      ...type,
      name: `${(type.name as string).split(' · ')[0]} · ${Date.now()}`,
    });
  }

  /** @param body bytes are a picture */
  async send(method: string, path: string, body: object | Buffer): Promise<void> {
    const answer = await fetch(`${this.base}${path}`, {
      method,
      headers: {
        'content-type': Buffer.isBuffer(body) ? 'image/jpeg' : 'application/json',
        cookie: this.cookie,
        origin: new URL(this.base).origin,
      },
      body: Buffer.isBuffer(body) ? new Uint8Array(body) : JSON.stringify(body),
    });
    if (!answer.ok)
      throw new Error(`${method} ${path} was answered ${answer.status}: ${await answer.text()}`);
  }
}
