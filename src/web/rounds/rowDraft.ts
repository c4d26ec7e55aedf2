import type { InstrumentAnswer, PackTypeAnswer, RoundAnswer } from '../../contract';
import type { ChecklistItem, Checklists, Marks, Swelling } from '../../core/inspection';
import { MINUTE_MS } from '../../core/measure';
import type { Instant, PersonId, RecordId } from '../../core/measure';
import { parseFigure, parseFigures, parseMinutes, parseVolts } from '../../core/reading';
import { BLANK_FLIGHT } from '../../core/record';
import type { RecordBody, RecordDraft, ReadVolts } from '../../core/record';
import { ROUND_OCCASION } from '../../core/rounds';
import { plural, voltsRefusalSentence } from '../../core/wording';
import { inspectionOf } from '../domain/inspection/inspectionRecord';
import { stillMeasured } from '../domain/meter/useMeter';
import type { FromMeter } from '../domain/meter/useMeter';
import { plainReading, voltsOf } from '../domain/typedReading';

/** What has been typed into one row of a round and not yet been taken. */
export interface RowDraft {
  readonly text: string;
  readonly marks: Marks;
  readonly swelling: Swelling | null;
  /** How many steps of a season start were looked through. */
  readonly step: number;
  readonly resistances: string;
  readonly thickness: string;
  readonly mass: string;
  /** The pack was used a moment ago: what it reads is not rested. */
  readonly settling: boolean;
  /** Who flew it, and for how long, where the cells say that somebody did and nobody wrote it down. */
  readonly pilotId: string;
  readonly minutes: string;
  /** The question that was asked about exactly this text; Enter on it again means yes. */
  readonly asked: string | null;
  /** Enter was pressed on something unfinished, which is now named. */
  readonly pressed: boolean;
  /** What a meter put into the field; absent where none did. */
  readonly meter?: FromMeter;
}

export const BLANK_ROW: RowDraft = {
  text: '',
  marks: {},
  swelling: null,
  step: 0,
  resistances: '',
  thickness: '',
  mass: '',
  settling: false,
  pilotId: '',
  minutes: '',
  asked: null,
  pressed: false,
};

/** What the one field of a row says: the volts, or why there are none. */
export type RowMeans =
  | { readonly kind: 'empty' }
  | { readonly kind: 'skip'; readonly reason: string }
  | { readonly kind: 'missing' }
  | { readonly kind: 'volts'; readonly volts: ReadVolts }
  | { readonly kind: 'refused'; readonly why: string; readonly typing: boolean };

/** A dash leaves the pack out with the reason after it, a question mark says that it is not here; all else is volts. */
export function rowMeans(text: string, type: PackTypeAnswer): RowMeans {
  const typed = text.trim();
  if (typed === '') return { kind: 'empty' };
  if (typed === '?') return { kind: 'missing' };
  if (/^[-–—]/.test(typed)) return { kind: 'skip', reason: typed.replace(/^[-–—]+\s*/, '') };
  const parsed = parseVolts(typed, type);
  const volts = voltsOf(parsed);
  if (volts) return { kind: 'volts', volts };
  if (parsed.outcome !== 'refused') return { kind: 'empty' };
  const typing = parsed.why.code === 'too-few' || parsed.why.code === 'too-coarse';
  return { kind: 'refused', why: voltsRefusalSentence(parsed.why), typing };
}

/** What was measured of a new pack besides its volts; null stands for not measured. */
export interface Baseline {
  /** Up to three readings, each a figure a cell. */
  readonly resistances: readonly (readonly number[])[];
  readonly thicknessMm: number | null;
  readonly massG: number | null;
}

export type BaselineMeans =
  | { readonly baseline: Baseline; readonly errors: null }
  | {
      readonly baseline: null;
      readonly errors: Readonly<Partial<Record<'resistances' | 'thickness' | 'mass', string>>>;
    };

const MOST_READINGS = 3;

/** The baseline fields as typed. Resistances come one reading after the other, each with a figure for every cell. */
export function baselineMeans(draft: RowDraft, series: number): BaselineMeans {
  const milliohms = parseFigures(draft.resistances);
  const thickness = parseFigure(draft.thickness);
  const mass = parseFigure(draft.mass);
  const errors: Partial<Record<'resistances' | 'thickness' | 'mass', string>> = {};
  if (!milliohms || milliohms.some((value) => value <= 0))
    errors.resistances = 'Milliohms, figure by figure.';
  else if (milliohms.length % series !== 0 || milliohms.length > MOST_READINGS * series)
    errors.resistances = `${plural(milliohms.length, 'figure')}: give ${series} a reading, three readings one after the other.`;
  if (thickness.outcome === 'refused' || (thickness.outcome === 'figure' && thickness.value <= 0))
    errors.thickness = 'Millimetres, like 31.5.';
  if (mass.outcome === 'refused' || (mass.outcome === 'figure' && mass.value <= 0))
    errors.mass = 'Grams, like 1910.';
  if (!milliohms || Object.keys(errors).length > 0) return { baseline: null, errors };
  const resistances = Array.from({ length: milliohms.length / series }, (_, i) =>
    milliohms.slice(i * series, (i + 1) * series),
  );
  return {
    baseline: {
      resistances,
      thicknessMm: thickness.outcome === 'figure' ? thickness.value : null,
      massG: mass.outcome === 'figure' ? mass.value : null,
    },
    errors: null,
  };
}

/** A record of a row; a flight that is told afterwards ended so long before the row was worked. */
export type RowBody = RecordBody & { readonly endedMsAgo?: number };

/** A flight told at the bench ended before the rest that a rested reading claims. */
const BEFORE_REST_MS = MINUTE_MS;

/** The flight that was told with a row; null where none was, and why not where what was typed is no figure. */
export function toldFlight(
  { pilotId = '', minutes = '', settling }: RowDraft,
  restMinutes: number,
): { readonly body: RowBody | null; readonly error: string | null } {
  const typed = parseMinutes(minutes);
  if (typed.outcome === 'refused') return { body: null, error: 'Type minutes, or 12:30.' };
  if (pilotId === '' && typed.outcome === 'empty') return { body: null, error: null };
  const payload = {
    ...BLANK_FLIGHT,
    pilotId: (pilotId || null) as PersonId | null,
    ...(pilotId === '' ? { flownBy: 'nobody named' } : {}),
    minutes: typed.outcome === 'figure' ? typed.value : null,
    remarks: 'Told at the bench.',
  };
  const endedMsAgo = (settling ? 0 : restMinutes * MINUTE_MS) + BEFORE_REST_MS;
  return { body: { kind: 'flight', payload, supersedes: null, endedMsAgo }, error: null };
}

/**
 * What a row writes into the ledger: how it was looked over, what it reads, and of a new pack its baseline.
 * @param benchC how warm the bench is, and so the packs that lie on it
 */
export function rowBodies(
  round: Pick<RoundAnswer, 'kind' | 'checklist'>,
  draft: RowDraft,
  items: readonly ChecklistItem[],
  volts: ReadVolts | null,
  baseline: Baseline | null,
  instrument: InstrumentAnswer | null,
  benchC = 20,
): readonly RecordBody[] {
  const occasion = ROUND_OCCASION[round.kind];
  const bodies: RecordBody[] = [];
  if (occasion && round.checklist && items.length > 0) {
    const { marks, swelling } = draft;
    const thickness = parseFigure(draft.thickness);
    const thicker = thickness.outcome === 'figure' && thickness.value > 0 ? thickness.value : null;
    const { thicknessMm = thicker, massG = null } = baseline ?? {};
    const payload = inspectionOf(occasion, items, { marks, swelling, thicknessMm, massG, remarks: null });
    bodies.push({ kind: 'inspection', payload, supersedes: null });
  }
  if (volts)
    bodies.push({
      kind: 'reading',
      payload: plainReading(
        volts,
        instrument,
        draft.settling ? 'settling' : 'rested',
        stillMeasured(draft.meter, draft.text),
      ),
      supersedes: null,
    });
  for (const irMilliohm of baseline?.resistances ?? []) {
    const payload = {
      irMilliohm,
      temperatureC: benchC,
      instrument: instrument?.name ?? null,
      remarks: null,
    };
    bodies.push({ kind: 'resistance', payload, supersedes: null });
  }
  return bodies;
}

/**
 * What a hand saw of a pack before it left the row: the items found not in order, and the cells where all are typed. Only what was marked
 * is said: nobody looked at the rest. Empty where everything marked was in order.
 */
export function seenBodies(
  round: Pick<RoundAnswer, 'kind' | 'checklist'>,
  draft: RowDraft,
  checklists: Checklists,
  type: PackTypeAnswer,
  instrument: InstrumentAnswer | null,
): readonly RecordBody[] {
  const occasion = ROUND_OCCASION[round.kind];
  const seen = occasion
    ? checklists[occasion].filter(({ key }) => (draft.marks[key]?.answer ?? 'ok') !== 'ok')
    : [];
  if (seen.length === 0) return [];
  const means = rowMeans(draft.text, type);
  return rowBodies(round, draft, seen, means.kind === 'volts' ? means.volts : null, null, instrument);
}

/** Whether a row holds anything a hand typed or marked and nobody has saved. */
export function isTyped(draft: RowDraft | undefined): boolean {
  if (!draft) return false;
  const { text, resistances, thickness, mass, minutes = '', marks } = draft;
  const marked = Object.values(marks).some(
    ({ answer, note, photoIds }) => answer !== 'ok' || note !== '' || photoIds.length > 0,
  );
  return marked || [text, resistances, thickness, mass, minutes].some((typed) => typed.trim() !== '');
}

/** The records of a row at this moment. Several of one kind follow each other by a millisecond, so that their order stays. */
export function rowRecords(
  bodies: readonly RowBody[],
  at: Instant,
  newId: () => string,
): readonly RecordDraft[] {
  return bodies.map(({ endedMsAgo = 0, ...body }, i) => ({
    ...body,
    id: newId() as RecordId,
    at: at - endedMsAgo - (bodies.length - 1 - i),
  }));
}
