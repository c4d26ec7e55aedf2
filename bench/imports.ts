import Papa from 'papaparse';
import { v5 as idByText, v7 as newId } from 'uuid';
import { historyLines, identified, openedAs } from '../src/core/importing';
import type { Happening } from '../src/core/importing';
import { CHEMISTRIES } from '../src/core/chemistry';
import { DAY_MS, HOUR_MS } from '../src/core/measure';
import type { ImportId, PackId, RecordId } from '../src/core/measure';
import { tagKey } from '../src/core/pack';
import type { RecordDraft } from '../src/core/record';
import { beginImport, endImport, takeImportBack, takeRecords } from '../src/server/exchange/imports';
import { openRegister } from '../src/server/app';
import { LIPO_4S } from '../src/server/testing/testApp';
import { ms, ratio, say } from './measure';
import { growTo, layRegister } from './register';

const PACKS = 120;
const LINES = 100_000;
const AT_ONCE = 400;

/** A history of a hundred thousand lines: read, worked out, written, and taken back. */
export async function benchImports(url: string): Promise<void> {
  const database = await openRegister(url);
  const register = await layRegister(database);
  await growTo(database, register, PACKS);
  const actor = { id: register.person.id, role: 'deputy' as const };
  const tags: { id: PackId; tag: string }[] = await database
    .entities()
    .execute('select id, tag from pack where type_id = ? order by tag_key', [register.typeId]);
  const text = csvOf(tags.map(({ tag }) => tag));

  const parsed = timed(() => Papa.parse<string[]>(text, { delimiter: ';' }).data);
  say(`Parse ${LINES} lines (${(text.length / 1e6).toFixed(1)} MB)`, ms(parsed.ms));
  const zone = ({
    year,
    month,
    day,
    minutes,
  }: {
    year: number;
    month: number;
    day: number;
    minutes: number | null;
  }) => Date.UTC(year, month - 1, day, 0, minutes ?? 0);
  const packs = new Map(
    tags.map(({ id, tag }) => [tagKey(tag), { id, type: { ...LIPO_4S, chemistry: CHEMISTRIES[0] } }]),
  );
  const read = timed(() => {
    const { sheet, guess } = openedAs('history', parsed.value);
    return historyLines(sheet, guess, 'by-line', { packs, people: [] }, zone, Date.now());
  });
  say('Guess its columns and read every line', ms(read.ms), ratio(read.ms / parsed.ms));
  const byPack = new Map<PackId, Happening[]>();
  for (const line of read.value.lines) {
    if (line.outcome !== 'good') continue;
    const known = byPack.get(line.becomes.packId) ?? [];
    byPack.set(line.becomes.packId, [...known, ...line.becomes.happened]);
  }
  const drafts = timed(() =>
    [...byPack].map(([packId, happened]) => ({
      packId,
      records: identified(happened, [], (told) => idByText(told, packId) as RecordId).fresh.map(
        ({ id, happening: { at, kind, payload } }) =>
          ({ id, at, kind, payload, supersedes: null }) as RecordDraft,
      ),
    })),
  );
  say('Give every line its id', ms(drafts.ms));

  const id = newId() as ImportId;
  const form = {
    id,
    kind: 'history' as const,
    fileName: 'bench.csv',
    digest: '0'.repeat(64),
    columnsKey: '',
    lines: LINES,
  };
  await beginImport(database.entities(), { ...form, reading: {} as never }, actor, Date.now());
  const began = performance.now();
  let written = 0;
  for (const { packId, records } of drafts.value) {
    for (let first = 0; first < records.length; first += AT_ONCE) {
      const batch = { packId, records: records.slice(first, first + AT_ONCE) };
      written += (await takeRecords(database.entities(), id, batch, actor, Date.now())).taken;
    }
  }
  const whole = performance.now() - began;
  await endImport(database.entities(), id, 0, Date.now());
  say(
    `Write ${written} records of ${PACKS} packs`,
    ms(whole),
    `${Math.round(written / (whole / 1000))} records/s`,
  );
  const back = performance.now();
  const { records } = await takeImportBack(database.entities(), id, 'Bench.', actor, Date.now());
  say(`Take ${records} records back`, ms(performance.now() - back));
  await database.close();
}

function timed<Value>(work: () => Value): { readonly value: Value; readonly ms: number } {
  const began = performance.now();
  return { value: work(), ms: performance.now() - began };
}

/** Readings, flights and charges in turn, as a club's book has them. */
function csvOf(tags: readonly string[]): string {
  const two = (value: number) => String(value).padStart(2, '0');
  const first = Date.now() - 89 * DAY_MS;
  const lines = Array.from({ length: LINES }, (_, i) => {
    const nth = Math.floor(i / tags.length);
    const at = new Date(first + nth * 2.5 * HOUR_MS);
    const day = `${two(at.getUTCDate())}.${two(at.getUTCMonth() + 1)}.${at.getUTCFullYear()}`;
    const head = `${day};${two(at.getUTCHours())}:${two(at.getUTCMinutes())};${tags[i % tags.length]!}`;
    const mah = 1500 + (i % 900);
    if (nth % 3 === 0) return `${head};Reading;3,84;3,8${i % 10};3,85;3,84;;;;`;
    return nth % 3 === 1 ? `${head};Flight;;;;;${mah};12;;gusty` : `${head};Charge;;;;;${mah};55;;`;
  });
  return `Date;Time;Tag;What;Cell 1;Cell 2;Cell 3;Cell 4;mAh;Minutes;Craft;Remarks\n${lines.join('\n')}\n`;
}
