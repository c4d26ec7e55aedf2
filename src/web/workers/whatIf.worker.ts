import { awaitsDecision, changedParts, isOutOfUse } from '../../core/assess';
import type { Instant } from '../../core/measure';
import type { PackHistory } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import { effectOn, standingAfter, standingTold, standingUnder } from '../../core/whatif';
import type { RuleEffect } from '../../core/whatif';
import { allHistories } from './histories';
import type { HistoriesPage, Share } from './histories';

/** What would these rules do to the register, or to a share of it? */
export interface WhatIfQuestion extends Share {
  /** Tells this question's answers from those of one asked before it. */
  readonly id: number;
  /** The rules in force, and their version. */
  readonly before: HouseRules;
  readonly version: number;
  readonly after: HouseRules;
  readonly now: Instant;
}

/** A part of the answer to the question of this id. */
export type WhatIfMessage = { readonly id: number } & (
  | {
      readonly kind: 'progress';
      /** How many more packs were judged, and of how many in the whole register. */
      readonly judged: number;
      readonly packs: number;
      readonly records: number;
      readonly effects: readonly RuleEffect[];
    }
  | { readonly kind: 'done'; readonly milliseconds: number }
  | { readonly kind: 'failed' }
);

/** Up to this many records are kept folded between questions, so that each further change answers at once. */
const KEPT_RECORDS = 150_000;
/** The question asked last; a run for an older one ends at its next page. */
let latest = 0;
let kept: {
  readonly histories: readonly PackHistory[];
  readonly records: number;
  readonly packs: number;
} | null = null;

self.onmessage = ({ data }: MessageEvent<WhatIfQuestion>) => {
  latest = data.id;
  void answer(data).catch(() => tell({ id: data.id, kind: 'failed' }));
};

async function answer(question: WhatIfQuestion): Promise<void> {
  const { id } = question;
  const began = performance.now();
  if (kept) {
    const { histories, records, packs } = kept;
    const effects = histories.flatMap((history) => effectOf(history, question) ?? []);
    tell({ id, kind: 'progress', judged: histories.length, packs, records, effects });
  } else {
    const read: PackHistory[] = [];
    let records = 0;
    let packs = 0;
    for await (const page of allHistories(question)) {
      if (id !== latest) return;
      records += page.records;
      ({ packs } = page);
      if (records <= KEPT_RECORDS) for (const pack of page.passing) read.push(await pack.history());
      tell({
        id,
        kind: 'progress',
        judged: page.passing.length,
        packs,
        records: page.records,
        effects: await effectsOn(page, question),
      });
    }
    if (records <= KEPT_RECORDS) kept = { histories: read, records, packs };
  }
  tell({ id, kind: 'done', milliseconds: performance.now() - began });
}

/**
 * What would change of packs on their way past. How they stand today the register knows, and what was found of them, unless other rules were adopted
 * meanwhile: then only what goes by what changed is judged, and the ledger of a pack that no rule can change is not even unpacked.
 */
async function effectsOn(
  { passing, rulesVersion }: HistoriesPage,
  question: WhatIfQuestion,
): Promise<readonly RuleEffect[]> {
  const { before, after, version, now } = question;
  const effects: (RuleEffect | null)[] = [];
  for (const { facts, standing, history } of passing) {
    if (standing === null || rulesVersion !== version) {
      effects.push(effectOf(await history(), question));
      continue;
    }
    const changed = changedParts(before, after, facts.chemistry);
    // Whoever retired a pack did so under whatever rules.
    const isRetired = isOutOfUse(standing.verdict) && !awaitsDecision(standing.verdict);
    if (changed.size === 0 || isRetired) continue;
    const becomes = standingAfter(await history(), standing, changed, after, now);
    effects.push(effectOn(facts.id, standingTold(standing, now), becomes));
  }
  return effects.flatMap((effect) => effect ?? []);
}

function effectOf(history: PackHistory, { before, after, now }: WhatIfQuestion): RuleEffect | null {
  const [was, becomes] = [before, after].map((rules) => standingUnder(history, rules, now));
  return effectOn(history.pack.id, was!, becomes!);
}

function tell(message: WhatIfMessage): void {
  self.postMessage(message);
}
