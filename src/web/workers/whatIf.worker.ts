import type { Instant } from '../../core/measure';
import type { PackHistory } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import { effectOn, standingTold, standingUnder } from '../../core/whatif';
import type { RuleEffect, Standing } from '../../core/whatif';
import { allHistories } from './histories';
import type { HistoriesPage } from './histories';

/** What would these rules do to the whole register? */
export interface WhatIfQuestion {
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
      readonly packsSoFar: number;
      readonly packs: number;
      readonly records: number;
      readonly effects: readonly RuleEffect[];
    }
  | { readonly kind: 'done'; readonly milliseconds: number; readonly records: number }
  | { readonly kind: 'failed' }
);

/** A register up to this many records is kept folded between questions, so that each further change answers at once. */
const KEPT_RECORDS = 150_000;
/** The question asked last; a run for an older one ends at its next page. */
let latest = 0;
let kept: { readonly histories: readonly PackHistory[]; readonly records: number } | null = null;

self.onmessage = ({ data }: MessageEvent<WhatIfQuestion>) => {
  latest = data.id;
  void answer(data).catch(() => tell({ id: data.id, kind: 'failed' }));
};

async function answer(question: WhatIfQuestion): Promise<void> {
  const { id } = question;
  const began = performance.now();
  let records = 0;
  if (kept) {
    ({ records } = kept);
    const packs = kept.histories.length;
    tell({
      id,
      kind: 'progress',
      packsSoFar: packs,
      packs,
      records,
      effects: kept.histories.flatMap((history) => {
        const was = standingUnder(history, question.before, question.now);
        return effectOf(history, was, question);
      }),
    });
  } else {
    const read: PackHistory[] = [];
    for await (const page of allHistories()) {
      if (id !== latest) return;
      records += page.records;
      if (records <= KEPT_RECORDS) read.push(...page.passing.map(({ history }) => history));
      const { packsSoFar, packs } = page;
      tell({
        id,
        kind: 'progress',
        packsSoFar,
        packs,
        records,
        effects: effectsOn(page, question),
      });
    }
    if (records <= KEPT_RECORDS) kept = { histories: read, records };
  }
  tell({ id, kind: 'done', milliseconds: performance.now() - began, records });
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
