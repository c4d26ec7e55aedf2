import { generateSync } from 'json-schema-faker';
import { openApi } from '../../contract';
import { seededRandom } from '../../core/random';
import { DAY_MS } from '../../core/measure';

/** One request as it goes over the line. */
export interface FuzzedRequest {
  /** The operation it was made for; its address may lead elsewhere. */
  readonly operation: string;
  readonly method: string;
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: string | null;
}

interface Described {
  readonly parameters: readonly { name: string; in: string; required: boolean; schema: object }[];
  readonly requestBody?: { readonly content: Readonly<Record<string, { readonly schema?: object }>> };
}

interface Operation extends Described {
  readonly name: string;
  readonly method: string;
  readonly path: string;
}

/** An event stream never ends, and who signs out asks nothing more. */
const NOT_ASKED: ReadonlySet<string> = new Set(['GET /live', 'DELETE /session', 'PUT /session/password']);

/** Printing, pictures, whole archives and the look at everything: a few of them take longer than all the others together. */
const HEAVY = /\.pdf$|\/archive|\/photos\/|^GET \/reports|^GET \/histories|\/verification$/;

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-/;
/** So many ids the register gave are kept to ask about. */
const MOST_KNOWN = 4_000;

/** What is put in the place of something right. */
const ODD: readonly ((random: () => number) => unknown)[] = [
  () => null,
  () => '',
  () => ' ',
  () => 'a\u0000b',
  () => '\ud800',
  () => '\u202eabc\u0301\u0301\u0301 🔋',
  () => 'x'.repeat(20_000),
  () => "'; drop table pack; --",
  () => '${7*7}<img src=x onerror=alert(1)>',
  () => '(a+)+$'.repeat(20),
  () => -1,
  () => 0,
  () => 0.1,
  () => 1e308,
  () => 2 ** 31,
  () => 2 ** 53,
  () => -(2 ** 63),
  () => 8.64e15,
  () => '12',
  () => true,
  () => [],
  () => ({}),
  () => [[[[[[[[[[[[1]]]]]]]]]]]],
  () => ({ __proto__: null, constructor: { prototype: {} } }),
  (random) => Math.floor(random() * 5_000),
  (random) => Array.from({ length: Math.floor(random() * 300) }, (_, i) => i),
];

/** Bodies that no client of ours would send: the server has to refuse them before it looks inside. */
const MALFORMED: readonly string[] = [
  '{',
  '[]',
  'null',
  '"text"',
  '{"a":1}}',
  '{"a":NaN}',
  '{"__proto__":{"a":1},"id":"x"}',
  '\u0000',
  '['.repeat(5_000),
];

const ODD_HEADERS: readonly Readonly<Record<string, string>>[] = [
  { 'content-type': 'text/plain' },
  { 'content-type': 'application/json; charset=utf-7' },
  { 'content-encoding': 'gzip' },
  { 'content-encoding': 'br, gzip' },
  { 'accept-encoding': 'zstd;q=9, *;q=0' },
  { 'if-none-match': '"\u00e4", W/"x", *' },
  { 'if-none-match': '*', 'a-im': 'merge-patch, nothing' },
  { range: 'bytes=-1-,5-2' },
  { range: 'bytes=99999999999999999999-' },
  { 'accept-language': '*-*-*,;q=' },
  { origin: 'null' },
  { 'x-forwarded-for': '::ffff:999.1.1.1, a' },
  { cookie: 'malle.session=s%3A..; malle.session=' },
  { authorization: 'Bearer \u00ff' },
];

/**
 * Makes requests from the description of the server: nine of ten bodies are right in form, about things the register knows, and of those
 * most are spoiled at a few places deep inside. The same seed and the same answers give the same requests.
 */
export class Fuzzer {
  readonly #random: () => number;
  readonly #operations: readonly Operation[];
  readonly #components: unknown;
  /** Ids by what they are of: packs, types, packId, and all of them under no name. */
  readonly #ids = new Map<string, string[]>();
  readonly #own: ReadonlySet<string>;
  readonly #now: number;
  readonly #heavyShare: number;

  /**
   * @param own people and sessions that are left alone: whoever asks must be able to go on
   * @param now about when what is said happened
   * @param heavyShare how often what is heavy is asked, as a part of how often all else is
   */
  constructor(
    seed: number,
    { own, now, heavyShare = 1 }: { own: readonly string[]; now: number; heavyShare?: number },
  ) {
    this.#random = seededRandom(seed);
    this.#own = new Set(own);
    this.#now = now;
    this.#heavyShare = heavyShare;
    const { paths, components } = openApi() as unknown as {
      paths: Record<string, Record<string, Described>>;
      components: unknown;
    };
    this.#components = components;
    this.#operations = Object.entries(paths)
      .flatMap(([path, methods]) =>
        Object.entries(methods).map(([verb, described]) => {
          const method = verb.toUpperCase();
          return { ...described, method, path, name: `${method} ${path.replace(/\{(\w+)\}/g, ':$1')}` };
        }),
      )
      .filter(({ name }) => !NOT_ASKED.has(name));
  }

  /**
   * Takes every id in an answer for something to ask about.
   * @param of what the answer is about, as the address it came from says: `packs` of `/packs`
   */
  learn(answer: unknown, of: string): void {
    if (typeof answer === 'string') {
      if (!UUID.test(answer) || this.#own.has(answer)) return;
      for (const kind of ['', of]) {
        const known = this.#ids.get(kind) ?? [];
        this.#ids.set(kind, known);
        if (known.length < MOST_KNOWN) known.push(answer);
        else known[this.#whole(MOST_KNOWN)] = answer;
      }
    } else if (Array.isArray(answer)) for (const one of answer) this.learn(one, of);
    else if (typeof answer === 'object' && answer !== null)
      for (const [key, one] of Object.entries(answer)) this.learn(one, key === 'id' ? of : key);
  }

  next(): FuzzedRequest {
    const operation = this.#operation();
    const { name, method, path, parameters } = operation;
    const address = path.replace(
      /(\w[\w-]*)\/\{(\w+)\}/g,
      (_all, of: string, key: string) => `${of}/${this.#pathPart(of, key)}`,
    );
    const query = new URLSearchParams();
    for (const one of parameters.filter((parameter) => parameter.in === 'query'))
      if (one.required || this.#random() < 0.5) query.append(one.name, this.#queryValue(one.schema));
    const body = this.#bodyOf(operation);
    const odd = this.#random() < 0.03 ? ODD_HEADERS[this.#whole(ODD_HEADERS.length)]! : {};
    return {
      operation: name,
      method,
      path: `/api${address}${query.size > 0 ? `?${query.toString()}` : ''}`,
      headers: { ...(body === null ? {} : { 'content-type': this.#mediaOf(operation) }), ...odd },
      body,
    };
  }

  #operation(): Operation {
    for (;;) {
      const operation = this.#operations[this.#whole(this.#operations.length)]!;
      if (!HEAVY.test(operation.name) || this.#random() < this.#heavyShare) return operation;
    }
  }

  #mediaOf({ requestBody }: Operation): string {
    const media = Object.keys(requestBody?.content ?? { 'application/json': {} });
    return media[0]!.includes('*') ? 'image/png' : media[0]!;
  }

  #bodyOf({ method, requestBody }: Operation): string | null {
    if (method === 'GET') return null;
    if (this.#random() < 0.03) return MALFORMED[this.#whole(MALFORMED.length)]!;
    if (!requestBody) return '{}';
    const schema = requestBody.content['application/json']?.schema;
    // Pictures and archives: bytes that only begin like them.
    if (!schema) return `\u0089PNG\r\n${'\u001a'.repeat(this.#whole(2_000))}`;
    const right = this.#placed(
      generateSync(
        { ...schema, components: this.#components },
        {
          seed: this.#whole(2 ** 31),
          maxItems: 3,
          maxDefaultItems: 2,
          maxLength: 30,
          optionalsProbability: 0.7,
        },
      ),
      '',
    );
    const spoiled = { whole: right };
    for (let times = [0, 1, 1, 2, 4][this.#whole(5)]!; times > 0; times--) this.#spoil(spoiled);
    return JSON.stringify(spoiled.whole) ?? '{}';
  }

  /** The same with things the register knows, about now: an id nobody knows is refused at the door. */
  #placed(value: unknown, key: string): unknown {
    if (typeof value === 'string') return UUID.test(value) && key !== 'id' ? this.#id(key) : value;
    if (typeof value === 'number') {
      if (/(^|[a-z])(at|At|from|From|to|until|Until)$/.test(key))
        return this.#now - this.#whole(60 * DAY_MS) + 2 * DAY_MS;
      return /version|Seq$/i.test(key) ? 1 + this.#whole(4) : value;
    }
    if (Array.isArray(value)) return value.map((one) => this.#placed(one, key));
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, this.#placed(one, name)]));
  }

  /** Puts something odd at one place anywhere inside, leaves it out, or says it many times. */
  #spoil(whole: { whole: unknown }): void {
    const places: { within: Record<string, unknown>; key: string }[] = [];
    const look = (within: Record<string, unknown>) => {
      for (const [key, value] of Object.entries(within)) {
        places.push({ within, key });
        if (typeof value === 'object' && value !== null) look(value as Record<string, unknown>);
      }
    };
    look(whole);
    const place = places[this.#whole(places.length)];
    if (!place) return;
    const { within, key } = place;
    const how = this.#random();
    if (how < 0.1 && !Array.isArray(within)) delete within[key];
    else if (how < 0.2) within[`${key}x`] = within[key];
    else if (how < 0.3 && Array.isArray(within[key]))
      within[key] = Array.from({ length: 40 }, () => within[key] as unknown[]).flat();
    else if (how < 0.4) within[key] = this.#id();
    else within[key] = ODD[this.#whole(ODD.length)]!(this.#random);
  }

  #pathPart(of: string, key: string): string {
    if (this.#random() < 0.08)
      return ['%', '%00', '..', '%2e%2e%2f', 'a'.repeat(3_000), '%ff', '%F0%9F'][this.#whole(7)]!;
    if (key === 'id') return this.#id(of);
    if (key === 'number') return String(this.#whole(5));
    return ['packs', 'readings', 'storage', 'HX-11', 'flights'][this.#whole(5)]!;
  }

  #queryValue(schema: object): string {
    if (this.#random() < 0.15) {
      const odd = ODD[this.#whole(ODD.length)]!(this.#random);
      const text = typeof odd === 'string' ? odd.slice(0, 4_000) : String(JSON.stringify(odd));
      return text;
    }
    const { format, type } = schema as { format?: string; type?: string };
    if (format === 'uuid') return this.#id();
    if (type === 'integer' && this.#random() < 0.7) return String(this.#now - this.#whole(90 * DAY_MS));
    if (type === 'string' && this.#random() < 0.5)
      return Array.from({ length: this.#whole(30) }, () => this.#id()).join(',');
    const value = generateSync(
      { ...schema, components: this.#components },
      { seed: this.#whole(2 ** 31), maxLength: 40 },
    );
    return typeof value === 'string' ? value : String(JSON.stringify(value));
  }

  /** An id the register knows, most often of what is asked for: `packId` and `packIds` are packs. */
  #id(of = ''): string {
    if (this.#random() < 0.03) return '01890000-0000-7000-8000-000000000000';
    const kind = of.replace(/Ids?$/, '');
    const named = [of, `${kind}s`, kind, `${kind}Id`].map((name) => this.#ids.get(name)).find(Boolean);
    const from = (this.#random() < 0.9 ? named : undefined) ?? this.#ids.get('') ?? [];
    return from[this.#whole(from.length)] ?? '01890000-0000-7000-8000-000000000000';
  }

  #whole(below: number): number {
    return Math.floor(this.#random() * below);
  }
}

/** What no answer may tell: where a file lies, what a statement says, what broke where. */
const TELLS_INSIDES =
  /node_modules|\.(?:ts|js):\d+|\bat \w+ \(|select .+ from |insert into|pg_\w+|ECONN|DriverException|argon2id\$/i;

/** What is wrong with an answer, whatever was asked; null when nothing is. A server that says that it is busy is not broken. */
export function faultOf(status: number, text: string): string | null {
  if (status >= 500 && !(status === 503 && text.includes('/problems/busy')))
    return `${status}: ${text.slice(0, 300)}`;
  const told = status >= 400 ? TELLS_INSIDES.exec(text) : null;
  return told ? `tells “${told[0]}”: ${text.slice(0, 300)}` : null;
}
