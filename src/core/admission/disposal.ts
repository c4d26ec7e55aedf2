import { assess, watchedUntil } from '../assess';
import { drainPlan } from '../charging';
import type { DrainRefusal } from '../charging';
import { FLAT_MV, stateAfter } from '../lifecycle';
import type { DisposalStep, LifeState } from '../lifecycle';
import { HOUR_MS } from '../measure';
import type { Instant } from '../measure';
import { fold } from '../record';
import type { PackHistory, RecordDraft } from '../record';
import type { AtTheGate } from './admit';
import { CLOCK_SLACK_MS } from './clockSlack';

export type DisposalRefusal =
  | {
      readonly code: 'no-way-on';
      readonly field: string;
      readonly step: DisposalStep;
      readonly state: LifeState;
    }
  | { readonly code: 'harmed'; readonly field: string }
  | { readonly code: 'cell-count'; readonly field: string; readonly given: number; readonly wanted: number }
  | { readonly code: 'not-empty'; readonly field: string; readonly cell: number; readonly mv: number }
  | { readonly code: 'too-soon'; readonly field: string; readonly from: Instant }
  /** Shocked or wrongly charged: nobody goes near it before then. */
  | { readonly code: 'still-watched'; readonly field: string; readonly from: Instant }
  | {
      readonly code: 'wrong-container';
      readonly field: string;
      readonly wanted: 'recycling' | 'apart' | 'sound';
    }
  | { readonly code: 'container-full'; readonly field: string }
  /** The house hands over what is discharged only. */
  | { readonly code: 'drained-only'; readonly field: string }
  /** It does not rest in its storage band, or nobody knows. */
  | { readonly code: 'not-at-storage'; readonly field: string }
  | { readonly code: 'other-consignment'; readonly field: string }
  | { readonly code: 'before-last-step'; readonly field: string; readonly lastAt: Instant }
  | { readonly code: 'wrong-load'; readonly field: string; readonly why: DrainRefusal };

/** Whether a step towards the recycler may be taken now, with the check it stands for. */
export function refusedDisposal(
  asked: AtTheGate<Extract<RecordDraft, { kind: 'disposal' }>>,
): readonly DisposalRefusal[] {
  const { pack, records, draft } = asked;
  const { payload } = draft;
  const history = fold(pack, records);
  const { state, since } = history.life;
  if (stateAfter(state, payload) === null)
    return [{ code: 'no-way-on', field: 'payload.step', step: payload.step, state }];
  if (since !== null && draft.at < since - CLOCK_SLACK_MS)
    return [{ code: 'before-last-step', field: 'at', lastAt: since }];
  return refusedCheck(asked, history);
}

function refusedCheck(
  {
    pack,
    draft,
    now,
    circumstances: { rules, places },
  }: AtTheGate<Extract<RecordDraft, { kind: 'disposal' }>>,
  history: PackHistory,
): DisposalRefusal[] {
  const { payload, at } = draft;
  const { life } = history;
  switch (payload.step) {
    case 'marked':
    case 'unsafe':
    case 'insulated':
    case 'reinstated':
      return [];
    case 'insulated-charged': {
      const field = 'payload.step';
      if (rules.endOfLife.handOver !== 'drained or at storage charge')
        return [{ code: 'drained-only', field }];
      const { harm, findings, storage } = assess(history, rules, now);
      if (harm.length > 0) return [{ code: 'harmed', field }];
      const from = watchedUntil(findings, rules);
      if (at < from) return [{ code: 'still-watched', field, from }];
      return storage.state === 'in-band' ? [] : [{ code: 'not-at-storage', field }];
    }
    case 'discharging': {
      const { harm, latest, findings } = assess(history, rules, now);
      if (harm.length > 0) return [{ code: 'harmed', field: 'payload.step' }];
      const from = watchedUntil(findings, rules);
      if (at < from) return [{ code: 'still-watched', field: 'payload.step', from }];
      const plan = drainPlan(pack, latest ? Math.max(...latest.cellsMv) : null, payload.load);
      return plan.outcome === 'refused' ? [{ code: 'wrong-load', field: 'payload.load', why: plan.why }] : [];
    }
    case 'verified': {
      const { cellsMv } = payload;
      const field = 'payload.cellsMv';
      if (cellsMv.length !== pack.series)
        return [{ code: 'cell-count', field, given: cellsMv.length, wanted: pack.series }];
      if (life.state === 'resting') {
        const from = (life.since ?? 0) + rules.endOfLife.reboundHours * HOUR_MS;
        return at < from ? [{ code: 'too-soon', field: 'at', from }] : [];
      }
      const full = cellsMv.findIndex((mv) => mv > FLAT_MV);
      return full === -1 ? [] : [{ code: 'not-empty', field, cell: full + 1, mv: cellsMv[full]! }];
    }
    case 'binned': {
      const place = places.get(payload.placeId);
      const field = 'payload.placeId';
      if (!place?.recycling) return [{ code: 'wrong-container', field, wanted: 'recycling' }];
      if (place.setApart !== life.apart)
        return [{ code: 'wrong-container', field, wanted: life.apart ? 'apart' : 'sound' }];
      return place.full ? [{ code: 'container-full', field }] : [];
    }
    case 'consigned':
      return [];
    case 'taken-back':
    case 'recycled':
      return payload.consignmentId === life.consignmentId
        ? []
        : [{ code: 'other-consignment', field: 'payload.consignmentId' }];
    default:
      return payload satisfies never;
  }
}
