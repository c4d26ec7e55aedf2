import { OCCASIONS } from '../inspection';
import type { EffectSums } from '../whatif';
import type { RuleField, RuleRefusal, RuleTopic, RuleValue } from '../rules';
import { RULE_FIELDS } from '../rules';
import { plural, volts } from './figures';
import { OCCASION_WORDS } from './inspection';
import { VERDICT_WORDS } from './step';
import { VERDICTS } from '../assess';
import type { Verdict } from '../assess';

/** Choices whose stored words are older than the plain ones. */
const CHOICE_WORDS: Readonly<Record<string, string>> = { 'hold, inspect, watch': 'hold, inspect, caution' };

/** A rule's value with its unit, as it stands in a form. */
export function ruleValueWords(field: RuleField, value: RuleValue): string {
  if (field.kind === 'choice' || typeof value !== 'number')
    return CHOICE_WORDS[String(value)] ?? String(value);
  switch (field.unit) {
    case 'V':
      return `${volts(value)} V`;
    case '×':
      return `× ${value}`;
    case 'C':
      return `${value}C`;
    case 'times':
      return plural(value, 'time');
    case 'charges':
      return plural(value, 'charge');
    case 'names':
      return plural(value, 'name');
    case 'mV':
    case 'h':
    case 'min':
    case 'days':
    case 'years':
    case '%':
    case '°C':
    case 'cycles':
      return `${value} ${field.unit}`;
    default:
      return field.unit satisfies never;
  }
}

/** What topics are called, why the house has rules about them, and what the schools say. */
export const TOPIC_TEXTS: Readonly<Record<RuleTopic, { readonly title: string; readonly why: string }>> = {
  storage: {
    title: 'Storage band',
    why: 'A pack lies best half full. One practice stores low for a long life (LiPo at 3.80), the other a little higher to be ready sooner (3.85). Nobody defends a target outside the range shown.',
  },
  allowance: {
    title: 'Time outside the band',
    why: 'Practices allow one day, two, a week or two before a charged pack must go to storage: readiness against life. Low is more urgent than high, and a field pack that must wait charged gets longer.',
  },
  floors: {
    title: 'Floors',
    why: 'Below the damage floor a cell is being harmed whatever is done next. The floors may be raised by a cautious club, never lowered.',
  },
  'over-discharge': {
    title: 'Over-discharge',
    why: 'One practice retires every over-discharged pack, because the harm cannot be seen and has started fires. The other recovers one whose cause is known and harmless, slowly and watched, and keeps it on caution for life.',
  },
  full: {
    title: 'Full',
    why: 'Stopping a little under full costs a few percent of a flight and buys many cycles. Time at full adds up, faster when it is warm.',
  },
  spread: {
    title: 'Cells apart',
    why: 'A cell that drifts is empty first in the air and full first on the charger. A strict club balances at 20 mV; a ready one lives with 30 while the pack keeps itself there.',
  },
  resistance: {
    title: 'Resistance',
    why: 'Compared with the pack’s own first readings and with its siblings on the day, since instruments and temperatures differ. One practice trusts it above all, the other only where a flight confirms it.',
  },
  capacity: {
    title: 'Capacity and flight time',
    why: 'At four fifths of its label a pack is commonly called worn. Some clubs retire there; others fly it on trainers down to seven tenths.',
  },
  wear: {
    title: 'Cycles and age',
    why: 'One practice retires by count, the other by measurement. Reaching the figure asks for a review, not for retirement.',
  },
  heat: {
    title: 'Heat',
    why: 'Heat in use says that something is wrong with gear, load or pack; heat on the charger that something in the pack takes the charge. Both shorten life, and the second can end in fire.',
  },
  charging: {
    title: 'Charging',
    why: 'Half the capacity is gentle, once is standard, more is for the field and only where the label allows it. One practice balances at every charge, the other every few while the pack keeps itself in tolerance.',
  },
  flying: {
    title: 'Flying',
    why: 'Practices land at 3.5, 3.6 or 3.7 V under load, or at storage so that nothing needs doing afterwards. The last tenth of a charge costs the most life.',
  },
  idle: {
    title: 'Lying idle',
    why: 'One practice cycles every pack monthly to keep it lively; the other leaves a stored lithium pack alone and only reads it, because each cycle costs life.',
  },
  inspection: {
    title: 'Inspections',
    why: 'Hidden damage is found by looking, and forgotten by not writing. Strict clubs look monthly; others every second or third month, and always after a rest or a knock. For swelling the practice gives no percentage: a soft pack grows a little when warm, so a little is watched and more is held.',
  },
  stowage: {
    title: 'Stowage',
    why: 'Cool, dry, fire-resistant, and no more in one container than it can contain. Warmth ages a full pack twice as fast for every ten degrees. Some clubs also keep chemistries apart, so that no hand takes the wrong pack to the wrong charger.',
  },
  incidents: {
    title: 'After an incident',
    why: 'A cell that was knocked can run away half an hour later, one that was charged wrongly hours later. Practices keep a shocked pack in quarantine for thirty minutes or for sixty; nobody inspects it sooner. An abnormal charge lies outdoors overnight.',
  },
  'end-of-life': {
    title: 'To the recycler',
    why: 'A cell read as empty comes back by itself within a day, so it is read twice before its contacts are covered. Some recyclers take a sound pack at storage charge with its contacts covered, and some clubs prefer that to a last discharge; both must say so. What a recycler takes changes without notice.',
  },
  decisions: {
    title: 'Decisions',
    why: 'A strict club retires every crashed pack and wants two names under a retirement; another inspects, watches, and trusts its custodian.',
  },
};

const TITLE_OF = new Map(RULE_FIELDS.map((field) => [field.path, field]));

/** Why a rule cannot be adopted as typed. */
export function ruleRefusalSentence(why: RuleRefusal): string {
  const field = TITLE_OF.get(why.path);
  switch (why.code) {
    case 'out-of-range': {
      const range = `${ruleValueWords(why.field, why.field.low)} to ${ruleValueWords(why.field, why.field.high)}`;
      return `No practice goes beyond ${range} here.`;
    }
    case 'not-whole':
      return field?.kind === 'figure' && field.unit === 'V'
        ? 'Volts go to the thousandth.'
        : 'This is a whole number.';
    case 'not-a-choice':
      return `Choose one of: ${why.options.join(', ')}.`;
    case 'not-below':
      return `This must lie below “${TITLE_OF.get(why.than)?.title ?? why.than}”.`;
    default:
      return why satisfies never;
  }
}

/** Which stored rules could not be read, and what stands in their place; empty when all could. */
export function mendedWords(mended: readonly string[]): string {
  if (mended.length === 0) return '';
  const names = mended.map((path) => {
    if (path === 'preset') return 'the preset itself';
    const occasion = OCCASIONS.find((one) => path === `checklists.${one}`);
    return occasion ? `the checklist ${OCCASION_WORDS[occasion]}` : `“${TITLE_OF.get(path)?.title ?? path}”`;
  });
  return `Not readable as a rule, so the preset’s value stands: ${names.join(', ')}. Adopt the rules anew to put that right.`;
}

/** What judging the register anew under a rule set did: "5 packs moved: 3 from fit to on caution, 2 from on caution to fit." */
export function movedWords(
  moved: readonly { readonly was: Verdict; readonly became: Verdict; readonly packs: number }[],
): string {
  const all = moved.reduce((sum, { packs }) => sum + packs, 0);
  if (all === 0) return '';
  const parts = moved.map(
    ({ was, became, packs }) => `${packs} from ${VERDICT_WORDS[was]} to ${VERDICT_WORDS[became]}`,
  );
  return `${plural(all, 'pack')} moved: ${parts.join(', ')}.`;
}

/** What a change of rules would do, in one line: "7 packs move to watch, 2 clocks become overdue". */
export function effectWords(sums: EffectSums): string {
  const parts = VERDICTS.flatMap((verdict) => {
    const count = sums.toVerdict[verdict] ?? 0;
    return count > 0
      ? [`${plural(count, 'pack')} ${count === 1 ? 'moves' : 'move'} to ${VERDICT_WORDS[verdict]}`]
      : [];
  });
  const clocks = (count: number, one: string, many: string) => {
    if (count > 0) parts.push(`${plural(count, 'clock')} ${count === 1 ? one : many}`);
  };
  clocks(sums.becomeOverdue, 'becomes overdue', 'become overdue');
  clocks(sums.noLongerOverdue, 'is overdue no longer', 'are overdue no longer');
  clocks(sums.start, 'starts', 'start');
  clocks(sums.stop, 'stops', 'stop');
  return parts.length === 0 ? 'Nothing would change for any pack.' : `${parts.join(', ')}.`;
}
