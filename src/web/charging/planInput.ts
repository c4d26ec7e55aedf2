import type { ChargingAnswer, EquipmentAnswer, JobAnswer } from '../../contract';
import { demandOf } from '../../core/charging';
import type { Berth, Demand, PlanInput, PlannedJob } from '../../core/charging';
import { MINUTE_MS } from '../../core/measure';
import type { Instant, JobId, PackId } from '../../core/measure';
import type { HouseRules } from '../../core/rules';

/** What a person changes about a plan: jobs that stay where they are put, and packs that are left out. */
export interface Wanted {
  readonly locked: readonly Berth[];
  readonly leftOut: readonly PackId[];
}

export const NOTHING_WANTED: Wanted = { locked: [], leftOut: [] };

/** A running job past its end is taken to end soon. */
const ENDS_SOON_MS = 5 * MINUTE_MS;

/** What tonight's plan is made from, and what it need not look at. */
export function planInput(
  charging: ChargingAnswer,
  equipment: readonly EquipmentAnswer[],
  rules: HouseRules,
  wanted: Wanted,
  from: Instant,
): { readonly input: PlanInput; readonly demand: Demand } {
  const days = charging.days.filter(({ cancelled }) => !cancelled);
  const demand = demandOf(charging.packs, days, charging.attended, rules, new Set(wanted.leftOut));
  const running = charging.jobs.flatMap((job) =>
    job.state === 'running'
      ? [{ ...berthOf(job), end: Math.max(job.end, from + ENDS_SOON_MS), peakW: job.peakW }]
      : [],
  );
  const input: PlanInput = {
    from,
    equipment,
    attended: charging.attended,
    packs: demand.packs,
    running,
    locked: wanted.locked,
    lastSettings: charging.lastSettings,
    rules,
  };
  return { input, demand };
}

export function berthOf({
  id,
  do: kind,
  packIds,
  equipmentId,
  channel,
  boardId,
  setting,
  start,
}: JobAnswer): Berth {
  return { id, do: kind, packIds, equipmentId, channel, boardId, amps: setting.amps, start };
}

/** A planned job where it stands, to be locked there. */
export function berthOfPlanned(job: PlannedJob): Berth {
  return {
    id: keyOf(job) as JobId,
    do: job.do,
    packIds: job.packs.map(({ id }) => id),
    equipmentId: job.equipmentId,
    channel: job.channel,
    boardId: job.boardId,
    amps: job.setting.amps,
    start: job.start,
  };
}

/** What makes a job the same one in the next plan: its kind and its packs. */
export function keyOf(
  job: Pick<PlannedJob, 'do'> & { readonly packs: readonly { readonly id: PackId }[] },
): string {
  return `${job.do} ${job.packs
    .map(({ id }) => id)
    .sort()
    .join(' ')}`;
}
