import { CHEMISTRY, isLithium } from '../chemistry';
import type { Chemistry } from '../chemistry';
import type { Instant, PersonId } from '../measure';
import { adapterFor, samePlug } from './equipment';
import type { Adapter, Board, Charger, Equipment, ExternalLoad, SettingField } from './equipment';
import type { BenchPack } from './planner/demand';
import type { Attended, JobKind } from './planner/input';
import { settingChanges } from './setting';
import type { ChargerSetting, SettingChange } from './setting';

/** What whoever starts a job says at the gate. */
export interface GateAnswers {
  /** The cells the charger shows once the pack is on it, typed off its display; null where nothing was typed. */
  readonly detectedCells: number | null;
  /** The chemistry that stands on its display, typed apart from the count: a charger cannot detect it. */
  readonly setChemistry: Chemistry | null;
  /** The fields that differed from the channel's last setting and were looked at one by one. */
  readonly confirmed: readonly SettingField[];
  readonly looked: boolean;
  readonly balanceLead: boolean;
  readonly polarity: boolean;
  readonly leadsFirst: boolean;
  readonly surface: boolean;
  readonly wayOut: boolean;
  readonly attendantId: PersonId | null;
}

/** A job that is about to start, and all the gate knows of it by itself. */
export interface AtTheStart {
  readonly do: JobKind;
  readonly setting: ChargerSetting;
  readonly packs: readonly BenchPack[];
  readonly output: Equipment<Charger> | Equipment<ExternalLoad>;
  readonly channel: string | null;
  readonly board: Equipment<Board> | null;
  readonly adapters: readonly Equipment<Adapter>[];
  /** What the channel was last set to; null where nobody knows. */
  readonly last: ChargerSetting | null;
  readonly now: Instant;
  readonly end: Instant;
  readonly attended: readonly Attended[];
}

export const GATE_QUESTIONS = [
  'looked',
  'balanceLead',
  'polarity',
  'leadsFirst',
  'surface',
  'wayOut',
] as const;
export type GateQuestion = (typeof GATE_QUESTIONS)[number];

/** Why a job may not start. The first group stands whatever is answered; the rest can be put right at the bench. */
export type GateRefusal =
  | { readonly code: 'out-of-use' | 'away' | 'unknown-cells'; readonly tag: string }
  | { readonly code: 'not-cooled'; readonly tag: string; readonly until: Instant }
  | { readonly code: 'channel-out-of-order' }
  | { readonly code: 'chemistry'; readonly chemistry: Chemistry }
  | { readonly code: 'cells'; readonly cells: number; readonly least: number; readonly most: number }
  | { readonly code: 'wrong-cells'; readonly set: number; readonly has: number }
  | { readonly code: 'mixed-chemistry' }
  | { readonly code: 'below-floor'; readonly tag: string; readonly mv: number; readonly floorMv: number }
  | { readonly code: 'top-above-full'; readonly topMv: number; readonly fullMv: number }
  | { readonly code: 'plug'; readonly plug: string }
  | { readonly code: 'mode'; readonly mode: ChargerSetting['mode'] }
  | { readonly code: 'current'; readonly amps: number; readonly most: number }
  | { readonly code: 'unwatched-cells' }
  | { readonly code: 'unconfirmed'; readonly change: SettingChange }
  | { readonly code: 'chemistry-not-typed' }
  | { readonly code: 'chemistry-set'; readonly set: Chemistry; readonly wanted: Chemistry }
  | { readonly code: 'cells-not-typed' }
  | { readonly code: 'fewer-cells' | 'more-cells'; readonly detected: number; readonly wanted: number }
  | { readonly code: 'unanswered'; readonly question: GateQuestion }
  | { readonly code: 'nobody-attends' };

/** Which refusals no answer at the gate can lift. */
export function isHard({ code }: GateRefusal): boolean {
  return !SOFT.has(code);
}

const SOFT: ReadonlySet<GateRefusal['code']> = new Set([
  'unconfirmed',
  'chemistry-not-typed',
  'cells-not-typed',
  'unanswered',
  'nobody-attends',
]);

/** What is asked at this start; what the records or the bench know already is not. */
export function gateQuestions(start: AtTheStart): readonly GateQuestion[] {
  const charger = start.output.facts.kind === 'charger';
  return GATE_QUESTIONS.filter((question) => {
    switch (question) {
      case 'looked':
        return start.packs.some(({ bar }) => bar === 'look-first');
      case 'balanceLead':
        return charger && start.setting.cells > 1 && isLithium(start.setting.chemistry);
      case 'polarity':
      case 'surface':
      case 'wayOut':
        return true;
      case 'leadsFirst':
        return charger;
      default:
        return question satisfies never;
    }
  });
}

/** Whether the charger tells the cells it detects for this job: by the taps of a lithium pack, and only a charger. */
export function detectsCells({ output, setting }: Pick<AtTheStart, 'output' | 'setting'>): boolean {
  return output.facts.kind === 'charger' && isLithium(setting.chemistry);
}

/** Everything that speaks against starting the job now; empty when it may start. Hard refusals come first. */
export function gateRefusals(start: AtTheStart, answers: GateAnswers): readonly GateRefusal[] {
  const found = [
    ...packRefusals(start),
    ...outputRefusals(start),
    ...settingRefusals(start, answers),
    ...askedRefusals(start, answers),
  ];
  return [...found.filter(isHard), ...found.filter((one) => !isHard(one))];
}

function packRefusals({ packs, now, do: kind, output, setting, board }: AtTheStart): GateRefusal[] {
  const floorMv = output.facts.kind === 'charger' ? output.facts.floorMv : null;
  const puts = kind === 'charge' || kind === 'raise';
  const has = board?.facts.wiring === 'series' ? packs.length : packs[0]!.series;
  return [
    ...(setting.cells === has ? [] : [{ code: 'wrong-cells' as const, set: setting.cells, has }]),
    ...(packs.every(({ chemistry }) => chemistry === setting.chemistry)
      ? []
      : [{ code: 'mixed-chemistry' as const }]),
    ...packs.flatMap((pack): GateRefusal[] => {
      const { tag, bar, cellsMv, freeFrom, chemistry } = pack;
      const lowestMv = cellsMv ? Math.min(...cellsMv) : null;
      return [
        ...(bar === 'out-of-use' || bar === 'away' ? [{ code: bar, tag }] : []),
        ...(isLithium(chemistry) && (lowestMv === null || bar === 'measure-first')
          ? [{ code: 'unknown-cells' as const, tag }]
          : []),
        ...(freeFrom > now ? [{ code: 'not-cooled' as const, tag, until: freeFrom }] : []),
        ...(puts && isLithium(chemistry) && floorMv !== null && lowestMv !== null && lowestMv < floorMv
          ? [{ code: 'below-floor' as const, tag, mv: lowestMv, floorMv }]
          : []),
      ];
    }),
  ];
}

function outputRefusals({
  output,
  channel,
  setting,
  packs,
  board,
  adapters,
  do: kind,
}: AtTheStart): GateRefusal[] {
  const { facts } = output;
  const plug = board ? board.facts.lead : packs[0]!.connector;
  const refusals: GateRefusal[] = [];
  if (plug !== null && adapterFor(facts.connectors, plug, adapters) === null)
    refusals.push({ code: 'plug', plug });
  const port = board?.facts.connector ?? null;
  for (const { connector } of board ? packs : [])
    if (port !== null && connector !== null && !samePlug(port, connector))
      refusals.push({ code: 'plug', plug: connector });
  if (facts.kind === 'load') return refusals;
  const used = facts.channels.find(({ key }) => key === channel);
  if (!used || used.outOfOrder) refusals.push({ code: 'channel-out-of-order' });
  const cells = facts.cells[setting.chemistry];
  if (!cells) refusals.push({ code: 'chemistry', chemistry: setting.chemistry });
  else if (setting.cells < cells.least || setting.cells > cells.most)
    refusals.push({ code: 'cells', cells: setting.cells, ...cells });
  if (!facts.modes.includes(setting.mode)) refusals.push({ code: 'mode', mode: setting.mode });
  const puts = kind === 'charge' || kind === 'raise';
  const most = (puts ? used?.chargeA : used?.dischargeA) ?? 0;
  if (used && setting.amps > most + 1e-9) refusals.push({ code: 'current', amps: setting.amps, most });
  return refusals;
}

function settingRefusals(start: AtTheStart, answers: GateAnswers): GateRefusal[] {
  const { setting, output, last, do: kind } = start;
  const { fullMv } = CHEMISTRY[setting.chemistry];
  const refusals: GateRefusal[] = [];
  const puts = kind === 'charge' || kind === 'raise';
  if (puts && fullMv !== null && setting.topMv !== null && setting.topMv > fullMv)
    refusals.push({ code: 'top-above-full', topMv: setting.topMv, fullMv });
  const several = setting.cells > 1 && isLithium(setting.chemistry);
  if (kind === 'charge' && setting.mode === 'fast' && several && !answers.balanceLead)
    refusals.push({ code: 'unwatched-cells' });
  if (output.facts.kind === 'load') return refusals;
  for (const change of settingChanges(last, setting))
    if (!answers.confirmed.includes(change.field)) refusals.push({ code: 'unconfirmed', change });
  if (answers.setChemistry === null) refusals.push({ code: 'chemistry-not-typed' });
  else if (answers.setChemistry !== setting.chemistry)
    refusals.push({ code: 'chemistry-set', set: answers.setChemistry, wanted: setting.chemistry });
  if (!detectsCells(start)) return refusals;
  const { detectedCells } = answers;
  if (detectedCells === null) refusals.push({ code: 'cells-not-typed' });
  else if (detectedCells !== setting.cells)
    refusals.push({
      code: detectedCells < setting.cells ? 'fewer-cells' : 'more-cells',
      detected: detectedCells,
      wanted: setting.cells,
    });
  return refusals;
}

function askedRefusals(start: AtTheStart, answers: GateAnswers): GateRefusal[] {
  return [
    ...gateQuestions(start).flatMap((question) =>
      answers[question] ? [] : [{ code: 'unanswered' as const, question }],
    ),
    ...(answers.attendantId === null ? [{ code: 'nobody-attends' as const }] : []),
  ];
}

/** Until when the attendance that holds now goes on, hand-overs counted; null where nobody has said that they are there. */
export function attendedUntil(attended: readonly Attended[], now: Instant): Instant | null {
  let until: Instant | null = null;
  for (const { from, to } of [...attended].sort((a, b) => a.from - b.from)) {
    if (from <= (until ?? now) && to > (until ?? now)) until = to;
  }
  return until;
}
