import type { Instant } from '../../core/measure';
import type { PackHistory } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import { effectOn, standingTold, standingUnder } from '../../core/whatif';
import type { RuleEffect, Standing } from '../../core/whatif';
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
    const effects = histories.flatMap((history) => {
      const was = standingUnder(history, question.before, question.now);
      return effectOf(history, was, question);
    });
    tell({ id, kind: 'progress', judged: histories.length, packs, records, effects });
  } else {
    const read: PackHistory[] = [];
    let records = 0;
    let packs = 0;
    for await (const page of allHistories(question)) {
      if (id !== latest) return;
      records += page.records;
      ({ packs } = page);
      if (records <= KEPT_RECORDS) read.push(...page.passing.map(({ history }) => history));
      tell({
        id,
        kind: 'progress',
        judged: page.passing.length,
        packs,
        records: page.records,
        effects: effectsOn(page, question),
      });
    }
    if (records <= KEPT_RECORDS) kept = { histories: read, records, packs };
  }
  tell({ id, kind: 'done', milliseconds: performance.now() - began });
}

/** What would change of packs on their way past. How they stand today the register knows, unless other rules were adopted meanwhile. */
function effectsOn(
  { passing, rulesVersion }: HistoriesPage,
  question: WhatIfQuestion,
): readonly RuleEffect[] {
  const { before, version, now } = question;
  return passing.flatMap(({ history, standing }) => {
    const isTold = standing !== null && rulesVersion === version;
    const was = isTold ? standingTold(standing, now) : standingUnder(history, before, now);
    return effectOf(history, was, question);
  });
}

function effectOf(
  history: PackHistory,
  was: Standing,
  { after, now }: WhatIfQuestion,
): readonly RuleEffect[] {
  const effect = effectOn(history.pack.id, was, standingUnder(history, after, now));
  return effect === null ? [] : [effect];
}

function tell(message: WhatIfMessage): void {
  self.postMessage(message);
}
