import { assess, fullDays, restedReadings } from '../assess';
import type { RuleId } from '../assess';
import { ageYears, BY_TIME, cycles, measure } from '../health';
import type { WearShown } from '../health';
import { DAY_MS } from '../measure';
import type { Instant, PackId } from '../measure';
import type { PackHistory } from '../record';
import type { HouseRules } from '../rules';
import { shownBy } from './lifetimes';

/** What one pack tells of the fleet it is in. */
export interface FleetPack {
  readonly packId: PackId;
  /** `over` stands for one that is to be retired and only waits for somebody's word. */
  readonly state: 'in-service' | 'over' | 'worn-out' | 'lost';
  /** Years in service, until now or until it was retired. */
  readonly years: number;
  /** Full cycles within the last year, or the rate of a younger pack's life; 0 for one out of service. */
  readonly cyclesAYear: number;
  /** The share of the last year it lay full, as the house's exposure ledger counts it. */
  readonly fullShare: number;
  readonly shown: readonly WearShown[];
}

const YEAR_MS = 365.25 * DAY_MS;

/** Findings for which a pack goes because it is worn; for all else it was lost. */
const WORN: ReadonlySet<string> = new Set<RuleId>([
  'capacity',
  'resistance-growth',
  'resistance-siblings',
  'run-time',
  'cycles',
  'age',
  'spread',
  'weak-cell',
  'weakest-again',
  'cell-drift',
]);

export function fleetPack(history: PackHistory, rules: HouseRules, now: Instant): FleetPack {
  const { pack, life, decisions } = history;
  const isServing = life.state === 'in-service' || life.state === 'retiring';
  const retired = decisions.findLast(({ what }) => what.to === 'retire');
  const until = isServing ? now : (retired?.at ?? now);
  const measured = measure(history, restedReadings(history, rules).rested, rules, now);
  const years = Math.max(0, ageYears(history, until) ?? 0);
  return {
    packId: pack.id,
    state: isServing
      ? assess(history, rules, now).verdict === 'retire-advised' || life.state === 'retiring'
        ? 'over'
        : 'in-service'
      : retired?.what.to === 'retire' && retired.what.because.some((rule) => WORN.has(rule))
        ? 'worn-out'
        : 'lost',
    years,
    cyclesAYear: isServing ? cyclesWithinAYear(history, rules, now) : 0,
    fullShare: Math.min(
      1,
      fullDays(history, measured.carried, rules, now).days / 365 / Math.min(1, years || 1),
    ),
    shown: shownBy(history, rules, now),
  };
}

/** A pack younger than this is told by what it did so far, and a month of a new pack's flying is no year's. */
const LEAST_YEARS = 0.25;

function cyclesWithinAYear(history: PackHistory, rules: HouseRules, now: Instant): number {
  const from = now - YEAR_MS;
  const since = history.pack.inServiceAt ?? history.receivedAt ?? now;
  const within = {
    ...history,
    before: null,
    charges: history.charges.filter(({ at }) => at > from),
    flights: history.flights.filter(({ at }) => at > from),
  };
  const years = Math.min(1, Math.max(LEAST_YEARS, (now - since) / YEAR_MS));
  return cycles(within, rules.flight.maxDodPercent).count / years;
}

/**
 * A day full ages a pack by time as five days at storage do. The practice says only that full is the worst; this is the ratio of losses
 * commonly stated for a year at full and at 40 %, and what the page tells it rests on.
 */
const FULL_AGAINST_STORED = 5;

/**
 * How fast packs wear against today if they are flown and stored otherwise.
 * @param flying how much is flown against today
 * @param fullNow the share of the time they lie full today, and `fullThen` then
 * @example paceOf(1, 0.2, 0.2) // => 1
 * @example paceOf(2, 0, 0) // => 1.7
 */
export function paceOf(flying: number, fullNow: number, fullThen: number): number {
  const ageing = (full: number) => 1 + (FULL_AGAINST_STORED - 1) * full;
  return (BY_TIME * ageing(fullThen)) / ageing(fullNow) + (1 - BY_TIME) * flying;
}
