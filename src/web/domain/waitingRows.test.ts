import type { PackRow } from '../../contract';
import type { IncidentId, PersonId, RecordId } from '../../core/measure';
import { BLANK_FLIGHT } from '../../core/record';
import { aPack, reading, received, START } from '../../core/testing/histories';
import { PRESET_RULES } from '../../core/rules';
import type { Outgoing } from '../app/outbox';
import { aRow } from '../testing/rows';
import { judgedHere } from './judgedHere';
import { rowsAt, rowsWithWaiting } from './waitingRows';
import type { Ledgers } from './waitingRows';

const NOW = START + 5_000;
const KNOWS_NOTHING: Ledgers = { pack: () => undefined, register: undefined, judge: judgedHere };
const row = { ...aRow('HX-01'), verdict: 'fit', mayFly: 'yes' } as PackRow;
const other = { ...aRow('HX-02'), verdict: 'fit', mayFly: 'yes' } as PackRow;

function crash(holds: boolean, state: Outgoing['state'] = 'waiting'): Outgoing {
  const incidentId = 'incident' as IncidentId;
  const payload = { kind: 'crash', packIds: [row.id], holds };
  const entries = [{ kind: 'reported', id: 'entry', at: NOW, payload }];
  const packRecords = [{ packId: row.id, recordId: 'record' as RecordId }];
  return {
    ...{
      id: 'item',
      packId: null,
      by: 'somebody' as PersonId,
      drafts: [],
      round: null,
      problem: null,
      state,
    },
    incident: { id: incidentId, kind: 'crash', at: NOW, packRecords, entries: entries as never },
  };
}

const shown = (outgoing: readonly Outgoing[], ledgers = KNOWS_NOTHING) =>
  rowsWithWaiting([row, other], outgoing, ledgers, NOW).map(({ verdict, mayFly }) => `${verdict}, ${mayFly}`);

it('with nothing waiting the rows are the very ones the register told', () => {
  const rows = [row, other];
  expect(rowsWithWaiting(rows, [], KNOWS_NOTHING, NOW)).toBe(rows);
  expect(rowsWithWaiting(rows, [crash(true, 'refused')], KNOWS_NOTHING, NOW)).toBe(rows);
});

it('a crash that waits to be sent holds its pack in every list, though its ledger is not on this device', () => {
  expect(shown([crash(true)])).toEqual(['hold, no', 'fit, yes']);
  expect(shown([crash(false)])).toEqual(['fit, yes', 'fit, yes']);
});

it('a ledger that is older than the row takes nothing back that the register told since', () => {
  const pack = aPack({ series: 4 });
  const ledgers: Ledgers = {
    judge: judgedHere,
    pack: () => ({ ...pack, id: row.id, records: [received()] }) as never,
    register: {
      types: [{ ...pack, id: row.typeId }],
      placeTemperatures: [],
      rules: { rules: PRESET_RULES['even-keel'] },
    } as never,
  };
  const held = { ...row, seq: 7, verdict: 'hold', mayFly: 'no' } as PackRow;
  const [shownNow] = rowsWithWaiting([held], [crash(false)], ledgers, NOW);
  expect([shownNow!.verdict, shownNow!.mayFly]).toEqual(['hold', 'no']);
});

it('where the ledger is here the pack is judged with what waits', () => {
  const pack = aPack({ series: 4 });
  const records = [received(), reading(1, [4180, 4180, 4180, 4180])];
  const ledgers: Ledgers = {
    judge: judgedHere,
    pack: (id) => (id === row.id ? ({ ...pack, id: row.id, records } as never) : undefined),
    register: {
      types: [{ ...pack, id: row.typeId }],
      placeTemperatures: [],
      rules: { rules: PRESET_RULES['even-keel'] },
    } as never,
  };
  const landed: Outgoing = {
    ...crash(true),
    incident: undefined,
    packId: row.id,
    drafts: [
      {
        id: 'flight' as RecordId,
        at: START + 2 * 3_600_000,
        kind: 'flight',
        supersedes: null,
        payload: { ...BLANK_FLIGHT, hottestC: 75 },
      },
    ],
  } as never;
  const [here] = rowsWithWaiting([row, other], [landed], ledgers, START + 3 * 3_600_000);
  expect(here!.verdict).toBe('hold');
  expect(here!.mayFly).toBe('no');
});

it('who has a pack is told by what waits, of every pack, whether or not its ledger is here', () => {
  const entry = (kind: 'taken-out' | 'returned', at: number, payload: object): Outgoing => ({
    ...{
      id: `${kind} ${at}`,
      packId: row.id,
      by: 'ada' as PersonId,
      round: null,
      problem: null,
      state: 'waiting',
    },
    drafts: [{ kind, id: `${kind} ${at}` as RecordId, at, payload, supersedes: null } as never],
  });
  const dueBackAt = NOW + 60_000;
  const out = entry('taken-out', NOW, { holderId: null, craftId: null, dueBackAt });
  const [taken, untouched] = rowsWithWaiting([row, other], [out], KNOWS_NOTHING, NOW);
  expect(taken).toMatchObject({
    holderId: 'ada',
    out: { holder: 'ada', dueBackAt, wantedBackAt: dueBackAt },
  });
  expect(untouched).toBe(other);
  const back = entry('returned', NOW + 1, { placeId: 'box', slot: 3 });
  const [returned] = rowsWithWaiting([row], [out, back], KNOWS_NOTHING, NOW);
  expect(returned).toMatchObject({ holderId: null, out: null, placeId: 'box', slot: 3 });
});

it('what time alone makes of a pack takes the place of its row, the latest that has come to pass', () => {
  const later = (verdict: PackRow['verdict'], from: number) => ({ from, row: { ...row, verdict } });
  const passed = [later('watch', NOW), later('hold', NOW + 1)];
  expect(rowsAt([row, other], passed).map(({ verdict }) => verdict)).toEqual(['hold', 'fit']);
  const rows = [row, other];
  expect(rowsAt(rows, [])).toBe(rows);
});

it('a pack that was written to, or renamed, since time was asked ahead stays as the register told it', () => {
  const passed = [{ from: NOW, row: { ...row, verdict: 'hold' as const } }];
  expect(rowsAt([{ ...row, seq: row.seq + 1 }], passed)[0]!.verdict).toBe('fit');
  expect(rowsAt([{ ...row, version: row.version + 1, tag: 'HX-99' }], passed)[0]).toMatchObject({
    verdict: 'fit',
    tag: 'HX-99',
  });
});
