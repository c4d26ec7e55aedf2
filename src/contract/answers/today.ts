import { z } from 'zod';
import { TASK_KINDS } from '../../core/assess';
import { jobAnswer } from './charging';
import { flyingDayAnswer } from './flying';
import { taskItem, watchItem } from './incidents';
import { finding, packId, packRowShape, releaseNeed } from './packs';
import { clockShape, personId } from './people';
import { roundAnswer } from './rounds';
import { count, list, moment } from './schema';

export const todayItem = z
  .strictObject({
    ...packRowShape,
    finding: finding.nullable().describe('The gravest finding; null when only the calendar asks.'),
    needs: list(releaseNeed).describe(
      'What a release wants, as of the latest record; a watch may be over since.',
    ),
  })
  .describe('One line of Today: a pack that needs hands, and what was found.')
  .meta({ id: 'TodayItem' });

export const dueGroup = z
  .strictObject({
    do: z.enum(TASK_KINDS),
    total: count,
    overdue: count,
    firstDueAt: moment,
    packs: list(z.strictObject({ id: packId, tag: z.string(), dueAt: moment })).describe(
      'The first few, soonest first.',
    ),
  })
  .describe('One kind of routine and the packs it is due for.')
  .meta({ id: 'DueGroup' });

const unexplainedItem = z
  .strictObject({
    packId,
    tag: z.string(),
    direction: z.enum(['charge', 'use']),
    fromAt: moment,
    toAt: moment,
    fromMv: z.int(),
    toMv: z.int(),
    holderId: personId.nullable().describe('Whoever had the pack last before the second reading.'),
  })
  .describe('Two readings with nothing written down between them that would explain the second.')
  .meta({ id: 'UnexplainedItem' });

/** What is wrong with the machine the register runs on. */
export const machineTrouble = z
  .discriminatedUnion('what', [
    z.strictObject({
      what: z.literal('clock-behind'),
      minutes: z.int().describe('So far the server’s clock is behind the newest thing it wrote down.'),
    }),
    z.strictObject({ what: z.literal('space-low'), freeMb: count }),
    z.strictObject({ what: z.literal('space-out'), freeMb: count }),
  ])
  .meta({ id: 'MachineTrouble' });

export const todayAnswer = z
  .strictObject({
    ...clockShape,
    machine: list(machineTrouble).describe(
      'What is wrong with the machine the register runs on; empty while nothing is.',
    ),
    counts: z.strictObject({
      packs: count,
      inBand: count,
      withinAllowance: count,
      overdue: count,
      unmeasured: count,
      outOfUse: count,
      watch: count,
      noRule: count.describe('Packs no storage rule applies to; they are no part of the compliance share.'),
    }),
    outOfBand: list(todayItem).describe('Packs outside their band, the most urgent first; only so many.'),
    outOfBandTotal: count,
    held: list(todayItem).describe('Packs that wait for a person’s decision.'),
    heldTotal: count,
    toMeasure: list(todayItem).describe('Packs to be measured, or read again, within the horizon.'),
    toMeasureTotal: count,
    due: list(dueGroup).describe('What the calendar asks within a week, the most pressing task first.'),
    onCharge: list(z.strictObject({ job: jobAnswer, tags: list(z.string()) })).describe(
      'What runs on the bench, so that everybody sees a charge nobody watches.',
    ),
    flying: list(flyingDayAnswer).describe('Flying days to come.'),
    out: list(todayItem).describe(
      'Packs that should be back, or that two people say they have; the longest overdue first.',
    ),
    outTotal: count,
    openRounds: list(roundAnswer),
    watches: list(watchItem).describe('Packs watched from a distance, the soonest over first.'),
    unexplained: list(unexplainedItem).describe(
      'What the cells tell and nobody wrote down, the latest first.',
    ),
    tasks: list(taskItem).describe('Follow-ups of open incidents, the soonest due first.'),
    leaving: list(todayItem).describe(
      'Packs on their way to a recycler whose next step waits, and none that waits for a time beyond the horizon.',
    ),
    leavingTotal: count,
    ownStorageOff: list(z.strictObject({ id: packId, tag: z.string() })).describe(
      'Smart packs whose own storage is off: nobody may rely on it.',
    ),
  })
  .meta({ id: 'Today' });
