import { v7 as newId } from 'uuid';
import type { DeviceKind, NewDeviceAnswer } from '../contract';
import type { Actor } from '../core/lifecycle';
import type { DeviceId, EquipmentId, InstrumentId } from '../core/measure';
import { openRegister } from '../server/app';
import { addDevice, renewKey } from '../server/devices';
import type { Entities } from '../server/platform/database';
import type { Charger } from '../core/charging';
import { serveControls } from './controls';
import { StandIns } from './standIns';
import type { ChargerFacts, PackFacts } from './standIns';

/**
 * The stand-ins of the made-up register: gives them keys, connects them to the server at MALLE_PORT and serves their page at
 * MALLE_STAND_INS_PORT. Ends when it is told to.
 */
async function main(): Promise<void> {
  const { DATABASE_URL, MALLE_PORT, MALLE_STAND_INS_PORT } = process.env;
  if (!DATABASE_URL || !MALLE_PORT || !MALLE_STAND_INS_PORT)
    throw new Error('The stand-ins are started by npm run demo.');
  const database = await openRegister(DATABASE_URL);
  const em = database.entities();
  const meterKey = await meterKeyOf(em);
  const chargers = await chargersOf(em);
  const readerKey = await readerKeyOf(em);
  const packs = await packsOf(em);
  await database.close();
  const standIns = new StandIns({
    url: `ws://127.0.0.1:${MALLE_PORT}/api/instruments`,
    meterKey,
    readerKey,
    chargers,
    packs,
  });
  await serveControls(standIns, Number(MALLE_STAND_INS_PORT));
  process.stdout.write(`Its stand-in instruments are worked at http://localhost:${MALLE_STAND_INS_PORT}\n`);
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.once(signal, () => {
      standIns.close();
      process.exit(0);
    });
}

async function custodian(em: Entities): Promise<Actor> {
  const [found]: { id: Actor['id'] }[] = await em.execute(
    `select id from person where role = 'custodian' and active order by name limit 1`,
  );
  if (!found) throw new Error('There is no custodian in this register.');
  return { id: found.id, role: 'custodian' };
}

/** A key for a device of this kind, of this meter or charger where it has one: of the one that is there, or of a new one. */
async function keyFor(
  em: Entities,
  of: {
    readonly kind: DeviceKind;
    readonly instrumentId?: InstrumentId | null;
    readonly equipmentId?: EquipmentId | null;
  },
  name: string,
): Promise<string> {
  const now = Date.now();
  const { kind, instrumentId = null, equipmentId = null } = of;
  const [known]: { id: DeviceId }[] = await em.execute(
    `select id from device where kind = ? and instrument_id is not distinct from ?::uuid and equipment_id is not distinct from ?::uuid
        and ended_at is null limit 1`,
    [kind, instrumentId, equipmentId],
  );
  const made: NewDeviceAnswer = known
    ? await renewKey(em, known.id, now)
    : await addDevice(
        em,
        {
          id: newId() as DeviceId,
          name,
          kind,
          instrumentId,
          equipmentId,
          patterns: [],
        },
        await custodian(em),
        now,
      );
  return made.secret;
}

async function meterKeyOf(em: Entities): Promise<string | null> {
  const [meter]: { id: InstrumentId; name: string }[] = await em.execute(
    'select id, name from instrument order by error_mv, name limit 1',
  );
  return meter ? keyFor(em, { kind: 'meter', instrumentId: meter.id }, `${meter.name} (stand-in)`) : null;
}

/** None where no pack of the register has a memory. */
async function readerKeyOf(em: Entities): Promise<string | null> {
  const [smart]: unknown[] = await em.execute('select id from pack where smart is not null limit 1');
  return smart ? keyFor(em, { kind: 'memory-reader' }, 'Memory reader (stand-in)') : null;
}

async function chargersOf(em: Entities): Promise<ChargerFacts[]> {
  const rows: { id: EquipmentId; name: string; facts: Charger }[] = await em.execute(
    `select id, name, facts from equipment where facts ->> 'kind' = 'charger' and jsonb_array_length(facts -> 'channels') > 1 order by name`,
  );
  const chargers: ChargerFacts[] = [];
  for (const { id, name, facts } of rows) {
    const each = Math.max(...facts.channels.map(({ chargeW }) => chargeW));
    const shared = facts.shared[0]?.watts ?? null;
    chargers.push({
      name,
      key: await keyFor(em, { kind: 'charger', equipmentId: id }, `${name} (stand-in)`),
      channels: facts.channels.map(({ key }) => key),
      watts: { each, all: shared ?? each * facts.channels.length },
    });
  }
  return chargers;
}

function packsOf(em: Entities): Promise<PackFacts[]> {
  return em.execute(
    `select p.tag, t.chemistry, t.series, coalesce((s.bench ->> 'capacityMah')::float8, t.capacity_mah) / 1000 as "capacityAh", s.cells_mv as "cellsMv",
            case when p.smart is not null then floor(coalesce((s.flying ->> 'cycles')::float8, 0))::int end as "ownCycles"
       from pack p join pack_type t on t.id = p.type_id join pack_state s on s.pack_id = p.id
      where t.chemistry <> 'nimh' and s.verdict not in ('retired', 'recycled') order by p.tag_key`,
  );
}

main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(1);
});
