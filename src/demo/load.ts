import { answersTo } from '../core/admission';
import { assess } from '../core/assess';
import { seededId, seededRandom } from '../core/cellsim';
import type { Random } from '../core/cellsim';
import { DAY_MS, HOUR_MS } from '../core/measure';
import type {
  InstrumentId,
  Instant,
  PackId,
  PackTypeId,
  PersonId,
  PlaceId,
  RecordId,
  RecyclerId,
} from '../core/measure';
import { tagKey } from '../core/pack';
import { fold } from '../core/record';
import type { PackRecord, RecordDraft } from '../core/record';
import { allFacts, append, placeTemperatures, rulesInForce } from '../server/ledger';
import { Pack } from '../server/packs';
import { giveTag } from '../server/packs';
import { Person } from '../server/people';
import { timestamp } from '../server/platform/columns';
import type { Entities } from '../server/platform/database';
import { writeSettingOnce } from '../server/platform/settings';
import { Instrument, PackType, Place, Recycler } from '../server/register';
import { layDownAftermath } from './aftermath';
import { layOutBench } from './bench';
import { INSTRUMENTS, PEOPLE, PLACES, RECYCLERS, TYPES } from './cast';
import type { DemoType } from './cast';
import { endingOf } from './endings';
import type { Ending } from './endings';
import { actorOf } from './diary';
import type { Directory } from './diary';
import { craftIds, layOutCraft, layOutFlying } from './flying';
import { season } from './season';

const SEED = 20_240_317;

/**
 * Lays the made-up register into an empty database, its past ending at `now`. The same `now` gives the same register.
 * Every record goes through the ledger's one write path. All of it or nothing: a loading that is interrupted leaves an empty register.
 * @returns how many packs and records it holds; null, changing nothing, when the register has people already
 */
export function loadMadeUpRegister(
  em: Entities,
  now: Instant,
): Promise<{ packs: number; records: number } | null> {
  return em.transactional((tx) => load(tx, now));
}

async function load(em: Entities, now: Instant): Promise<{ packs: number; records: number } | null> {
  if ((await em.count(Person)) > 0) return null;
  const random = seededRandom(SEED);
  const directory = await layOutTables(em, random, now);
  const typeIds = new Map<string, PackTypeId>();
  let packs = 0;
  let records = 0;
  for (const type of TYPES) {
    const typeId = seededId(random, now) as PackTypeId;
    typeIds.set(type.key, typeId);
    em.create(PackType, { ...type.label, id: typeId, version: 1 });
    await em.flush();
    for (let number = 1; number <= type.count; number++) {
      records += await layDownPack(em, type, typeId, number, packs++, random, now, directory);
    }
  }
  records += await layDownAftermath(em, directory, random, now);
  await layOutBench(em, directory, typeIds, now);
  await layOutFlying(em, directory, typeIds, now);
  await writeSettingOnce(em, 'demo', true);
  return { packs, records };
}

async function layOutTables(em: Entities, random: Random, now: Instant): Promise<Directory> {
  const people = new Map(PEOPLE.map(({ key }) => [key, seededId(random, now) as PersonId]));
  const places = new Map(PLACES.map(({ key }) => [key as string, seededId(random, now) as PlaceId]));
  for (const { key, name, role } of PEOPLE) {
    // No password fits: the made-up people are signed in from the sign-in page.
    em.create(Person, {
      id: people.get(key)!,
      name,
      login: key,
      role,
      passwordHash: null,
      active: true,
      version: 1,
    });
  }
  for (const [i, { key, ...place }] of PLACES.entries()) {
    const code = `P-${String(i + 1).padStart(2, '0')}`;
    em.create(Place, { ...place, code, codeKey: tagKey(code), id: places.get(key)!, version: 1 });
  }
  for (const instrument of INSTRUMENTS) {
    em.create(Instrument, { ...instrument, id: seededId(random, now) as InstrumentId, version: 1 });
  }
  for (const { key: _key, chemistries, confirmedDaysAgo, ...recycler } of RECYCLERS) {
    const confirmedAt = now - confirmedDaysAgo * DAY_MS;
    const id = seededId(random, now) as RecyclerId;
    em.create(Recycler, {
      ...recycler,
      chemistries: [...chemistries],
      confirmedAt,
      id,
      active: true,
      version: 1,
    });
  }
  await em.flush();
  for (const { key, celsius } of PLACES) {
    if (celsius === null) continue;
    await em.execute('insert into place_temperature (place_id, since, celsius) values (?, ?, ?)', [
      places.get(key)!,
      timestamp(Date.UTC(2000, 0, 1)),
      celsius,
    ]);
  }
  const directory: Directory = {
    person: (key) => people.get(key)!,
    place: (key) => places.get(key)!,
    craft: craftIds(now),
  };
  await layOutCraft(em, directory, now);
  return directory;
}

async function layDownPack(
  em: Entities,
  type: DemoType,
  typeId: PackTypeId,
  number: number,
  ordinal: number,
  random: Random,
  now: Instant,
  directory: Directory,
): Promise<number> {
  const tag = `${type.key}-${String(number).padStart(2, '0')}`;
  const ending = endingOf(tag, ordinal);
  const entries = season(type, ending, random, seededRandom(SEED + 1 + ordinal), now, directory);
  const id = seededId(random, now) as PackId;
  const received = entries[0]!.draft.at;
  em.create(Pack, {
    id,
    tag,
    tagKey: tagKey(tag),
    typeId,
    owner: 'The cooperative',
    homePlaceId: directory.place(type.home),
    inServiceAt: received + DAY_MS,
    fieldPack: type.fieldPack,
    smart: type.smart ? { autoStorage: true, autoStorageAfterHours: tag === 'IQ-04' ? 120 : 48 } : null,
    version: 1,
  });
  await em.flush();
  await giveTag(em, id, tag, received);
  const writers = new Map(entries.map(({ by, draft }) => [draft.id, by]));
  const drafts = entries.map(({ draft }) => draft).sort((a, b) => a.at - b.at);
  const intake = (draft: RecordDraft) => ({
    actor: actorOf(writers.get(draft.id) ?? 'ineke', directory),
    // Most things are written down where they happen; the server never learns of them before that.
    recordedAt: Math.min(draft.at + HOUR_MS / 60, now),
  });
  const told = ending.keptOnWatch ? await withWords(em, id, drafts, ending.keptOnWatch, now) : drafts;
  await append(em, id, told, intake);
  return told.length;
}

/**
 * The story with the words of a person who answered each advice to retire: the pack stays on caution until a day. They are
 * given as soon as the advice stands.
 */
async function withWords(
  em: Entities,
  packId: PackId,
  drafts: readonly RecordDraft[],
  { untilHoursAgo, reason }: NonNullable<Ending['keptOnWatch']>,
  now: Instant,
): Promise<readonly RecordDraft[]> {
  const [facts] = await allFacts(em, [packId]);
  const pack = { ...facts!, placeTemperatures: await placeTemperatures(em) };
  const { rules } = await rulesInForce(em);
  const ids = seededRandom(SEED);
  const told: RecordDraft[] = [];
  const known: PackRecord[] = [];
  const tell = (draft: RecordDraft) => {
    told.push(draft);
    const seq = told.length;
    known.push({
      ...draft,
      packId,
      seq,
      recordedAt: draft.at,
      by: '',
      rulesVersion: 1,
    } as unknown as PackRecord);
  };
  for (const draft of drafts) {
    tell(draft);
    const at = draft.at + HOUR_MS / 60;
    if (at >= now - untilHoursAgo * HOUR_MS) continue;
    const { verdict, findings } = assess(fold(pack, known), rules, at);
    if (verdict !== 'retire-advised') continue;
    const watch = { until: now - untilHoursAgo * HOUR_MS };
    const what = { to: 'release', answers: answersTo(findings), watch } as const;
    const payload = { basedOnSeq: told.length, reason, what };
    tell({ kind: 'decision', id: seededId(ids, at) as RecordId, at, payload, supersedes: null });
  }
  return told;
}
