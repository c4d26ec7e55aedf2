import { fit, fitPackOf, handOut } from '../core/flying';
import type { CraftFacts } from '../core/flying';
import { DAY_MS } from '../core/measure';
import type { CraftId, FlyingDayId, Instant, PackTypeId } from '../core/measure';
import { PRESET_RULES } from '../core/rules';
import { seededId, seededRandom } from '../core/cellsim';
import { Craft } from '../server/flying';
import { packRows } from '../server/packs';
import { timestamp } from '../server/platform/columns';
import type { Entities } from '../server/platform/database';
import { PackType } from '../server/register';
import type { PersonKey } from './cast';
import type { Directory } from './diary';

/** What the made-up cooperative flies. One old wing still has its cut-off set for three cells, and a glider waits for packs nobody has. */

interface DemoCraft {
  readonly name: string;
  readonly facts: CraftFacts;
  readonly changes?: readonly {
    readonly daysAgo: number;
    readonly by: PersonKey;
    readonly what: string;
    readonly newBaseline: boolean;
  }[];
}

const PLAIN = { burstA: null, trainer: false, costly: false, overWater: false, overPeople: false } as const;
const NO_LIMIT = { least: null, most: null } as const;

const WING: CraftFacts = {
  ...PLAIN,
  chemistries: ['liion'],
  cells: { least: 4, most: 4 },
  capacityMah: { least: 12_000, most: 15_000 },
  massG: { least: 700, most: 900 },
  sustainedA: 12.6,
  connector: 'yellow 60 A',
  usualMinutes: 43,
  usualMah: 9_000,
  cutOff: { mode: 'lithium', cells: 4, cellMv: 2_850 },
  costly: true,
  overWater: true,
};

const CRAFT: readonly DemoCraft[] = [
  {
    name: 'Mapping hexacopter',
    facts: {
      ...PLAIN,
      chemistries: ['lipo'],
      cells: { least: 6, most: 6 },
      capacityMah: { least: 12_000, most: 22_000 },
      massG: { least: null, most: 2_200 },
      sustainedA: 51,
      burstA: 140,
      connector: 'blue 90 A',
      usualMinutes: 12,
      usualMah: 10_300,
      cutOff: { mode: 'lithium', cells: 6, cellMv: 3_300 },
      costly: true,
      overWater: true,
    },
    changes: [
      {
        daysAgo: 430,
        by: 'tolle',
        what: 'Arms and folding propellers of the second delivery',
        newBaseline: true,
      },
    ],
  },
  {
    name: 'Survey wing',
    facts: WING,
    changes: [
      {
        daysAgo: 21,
        by: 'ineke',
        what: 'Cut-off set from three cells to four, after FW-03',
        newBaseline: false,
      },
    ],
  },
  {
    name: 'Old survey wing',
    facts: { ...WING, cutOff: { mode: 'lithium', cells: 3, cellMv: 3_200 } },
  },
  {
    name: 'Inspection quad',
    facts: {
      ...PLAIN,
      chemistries: ['lihv', 'lipo'],
      cells: { least: 4, most: 4 },
      capacityMah: { least: 4_800, most: 5_600 },
      massG: { least: null, most: 500 },
      sustainedA: 15.6,
      burstA: 44,
      connector: 'blade, keyed',
      usualMinutes: 13,
      usualMah: 3_350,
      cutOff: { mode: 'lithium', cells: 4, cellMv: 3_300 },
      overWater: true,
    },
  },
  {
    name: 'Trainer',
    facts: {
      ...PLAIN,
      chemistries: ['lipo', 'lihv'],
      cells: { least: 1, most: 1 },
      capacityMah: { least: 400, most: 700 },
      massG: { least: null, most: 18 },
      sustainedA: 5,
      connector: 'white 2-pin, small',
      usualMinutes: 4.3,
      usualMah: 355,
      cutOff: { mode: 'none' },
      trainer: true,
    },
  },
  {
    name: 'Club glider',
    facts: {
      ...PLAIN,
      chemistries: ['lipo'],
      cells: { least: 3, most: 3 },
      capacityMah: { least: 1_800, most: 2_600 },
      massG: NO_LIMIT,
      sustainedA: 22,
      connector: 'yellow 60 A',
      usualMinutes: 9,
      usualMah: 1_500,
      cutOff: { mode: 'unknown' },
    },
  },
];

const SEED = 31_416;
const ids = (now: Instant): ReadonlyMap<string, CraftId> => {
  const random = seededRandom(SEED);
  return new Map(CRAFT.map(({ name }) => [name, seededId(random, now - 400 * DAY_MS) as CraftId]));
};

/** The craft by their names, as the records of the season name them. */
export function craftIds(now: Instant): (name: string) => CraftId | null {
  const known = ids(now);
  return (name) => known.get(name) ?? null;
}

/** Puts the craft into the register. */
export async function layOutCraft(
  em: Entities,
  { person }: Pick<Directory, 'person'>,
  now: Instant,
): Promise<void> {
  const known = ids(now);
  for (const { name, facts } of CRAFT)
    em.create(Craft, { id: known.get(name)!, name, inUse: true, facts, version: 1 });
  await em.flush();
  for (const { name, changes = [] } of CRAFT)
    for (const [i, { daysAgo, by, what, newBaseline }] of changes.entries()) {
      const at = timestamp(now - daysAgo * DAY_MS);
      await em.execute(
        'insert into craft_change (craft_id, seq, at, recorded_at, by, what, new_baseline) values (?, ?, ?, ?, ?, ?, ?)',
        [known.get(name)!, i + 1, at, at, person(by), what, newBaseline],
      );
    }
}

/** Who flies on the days to come, on what; what is taken along on the second is settled already. */
export async function layOutFlying(
  em: Entities,
  { person }: Pick<Directory, 'person'>,
  typeIds: ReadonlyMap<string, PackTypeId>,
  now: Instant,
): Promise<void> {
  const known = ids(now);
  const flownOn = {
    HX: 'Mapping hexacopter',
    FW: 'Survey wing',
    IQ: 'Inspection quad',
    TR: 'Trainer',
  } as const;
  const craftOf = new Map(
    Object.entries(flownOn).map(([key, name]) => [typeIds.get(key)! as string, known.get(name)!]),
  );
  const days: { id: FlyingDayId; wants: { typeId: PackTypeId; packs: number }[] }[] = await em.execute(
    'select id, wants from flying_day order by at',
  );
  const crews: readonly (readonly PersonKey[])[] = [
    ['odile', 'jory', 'bram'],
    ['sunniva', 'adela'],
  ];
  for (const [i, { id, wants }] of days.entries()) {
    const lines = wants.map((want) => ({ ...want, craftId: craftOf.get(want.typeId) ?? null }));
    const people = (crews[i] ?? []).map(person);
    await em.execute('update flying_day set wants = ?, people = ?, hand_out = ? where id = ?', [
      JSON.stringify(lines),
      JSON.stringify(people),
      JSON.stringify(i === 1 ? await settled(em, lines, now) : []),
      id,
    ]);
  }
}

async function settled(
  em: Entities,
  wants: readonly { typeId: PackTypeId; packs: number; craftId: CraftId | null }[],
  now: Instant,
) {
  const rows = await packRows(em, now);
  const types = await em.find(PackType, {});
  const facts = new Map(CRAFT.map((craft) => [ids(now).get(craft.name)!, craft.facts]));
  const fitOf = ({ id: packId }: { readonly id: string }, craftId: CraftId) => {
    const row = rows.find(({ id }) => id === packId)!;
    const type = types.find(({ id }) => id === row.typeId)!;
    const pack = fitPackOf(type, { measuredMah: row.capacityMah, onWatch: row.verdict === 'watch' });
    return fit(pack, facts.get(craftId)!, PRESET_RULES['even-keel']);
  };
  const { lines } = handOut(wants, rows, fitOf, (id) => facts.get(id)?.trainer ?? false, now);
  return lines.map((line) => ({ ...line, personId: null, byHand: false }));
}
