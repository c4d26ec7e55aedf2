import { CHEMISTRY } from '../chemistry';
import type { FitCheck, HoverStep, NotHandedOut } from '../flying';
import { USUAL_STEP_MV } from '../flying';
import type { PersonId } from '../measure';
import { amps, plural, volts } from './figures';
import { VERDICT_WORDS } from './step';

/** One check of a pack against a craft, as a sentence with its figures. */
export function fitSentence(check: FitCheck): string {
  switch (check.check) {
    case 'chemistry': {
      const { name } = CHEMISTRY[check.chemistry];
      return check.outcome === 'ok' ? `The craft takes ${name}.` : `The craft does not take ${name}.`;
    }
    case 'cells':
      return cellsSentence(check);
    case 'cut-off':
      return cutOffSentence(check);
    case 'load':
      return loadSentence(check);
    case 'capacity':
      return rangeSentence(check, 'capacity', 'mAh');
    case 'mass':
      return rangeSentence(check, 'mass', 'g');
    case 'connector':
      return connectorSentence(check);
    case 'caution':
      if (check.outcome === 'refused') return `The pack is on caution, and ${RISK_WORDS[check.risk!]}.`;
      return check.risk
        ? `${capital(RISK_WORDS[check.risk])}: packs on caution stay off it.`
        : 'A pack on caution may fly on it.';
    default:
      return check satisfies never;
  }
}

const RISK_WORDS = {
  people: 'the craft flies over people',
  water: 'the craft flies over water',
  costly: 'the craft is a costly one',
} as const;

type Of<Name extends FitCheck['check']> = Extract<FitCheck, { check: Name }>;

function cellsSentence({ cells, least, most }: Of<'cells'>): string {
  const takes = least === most ? `${least}` : `${least} to ${most}`;
  const has = plural(cells, 'cell');
  if (cells > most) return `The pack has ${has}, the craft takes ${takes}: more can burn it.`;
  if (cells < least) return `The pack has ${has}, the craft takes ${takes}: it will be weak.`;
  return `The pack has ${has}, and the craft takes ${takes}.`;
}

function cutOffSentence({ why, cellMv, setCells, setMv, cells, limitMv }: Of<'cut-off'>): string {
  switch (why) {
    case 'nickel':
      return 'The craft’s cut-off is set to nickel, which never cuts a lithium pack off: it would be drained to ruin.';
    case 'none':
      return 'The craft has no cut-off: only the timer and the volts tell when to land.';
    case 'unknown':
      return 'Nobody has written down the craft’s cut-off. Look at its setting.';
    case 'holds':
    case 'ruins':
    case 'low':
    case 'early':
      if (cellMv === null) return 'The craft’s cut-off is set to nickel, as this pack is.';
      break;
    default:
      return why satisfies never;
  }
  const set = `The craft’s cut-off of ${setCells} × ${volts(setMv!)} V is ${volts(cellMv)} V for each of ${plural(cells, 'cell')}`;
  if (why === 'ruins') return `${set}; below ${volts(limitMv!)} V a cell is ruined.`;
  if (why === 'low') return `${set}: it is set for fewer cells than the pack has.`;
  return why === 'early' ? `${set}: it trips before the ${volts(limitMv!)} V to land at.` : `${set}.`;
}

function loadSentence({ outcome, ratedA, wantedA, sustainedA }: Of<'load'>): string {
  if (sustainedA === null) return 'Nobody has written down what the craft draws.';
  if (ratedA === null)
    return `The label states no rating; the craft draws ${amps(sustainedA)} for minutes on end.`;
  const rated = `The pack is rated for ${amps(ratedA)}`;
  return outcome === 'ok'
    ? `${rated}: at least twice the ${amps(sustainedA)} the craft draws.`
    : `${rated}; twice the ${amps(sustainedA)} the craft draws is ${amps(wantedA!)}.`;
}

function rangeSentence({ value, limit, side }: Of<'capacity' | 'mass'>, what: string, unit: string): string {
  if (side !== null)
    return `The pack’s ${what}, ${value} ${unit}, is ${side} the ${limit} ${unit} the craft takes at ${side === 'above' ? 'most' : 'least'}.`;
  if (value === null && limit !== null) return `Nobody has written down the pack’s ${what}.`;
  return value === null
    ? `The craft has no limit of ${what}.`
    : `The pack’s ${what}, ${value} ${unit}, suits the craft.`;
}

function connectorSentence({ outcome, craft, pack, adapter }: Of<'connector'>): string {
  if (craft === null) return 'Nobody has written down the craft’s connector.';
  if (pack === null) return 'Nobody has written down the pack’s connector.';
  if (adapter !== null) return `The craft has ${craft}, the pack ${pack}: with the adapter “${adapter}”.`;
  return outcome === 'ok'
    ? `Both have ${craft}.`
    : `The craft has ${craft}, the pack ${pack}, and there is no adapter between them.`;
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** Why a pack is not handed out, in one sentence or several. */
export function notHandedOutSentence(why: NotHandedOut, person: (id: PersonId) => string): string {
  switch (why.why) {
    case 'out-of-use':
      return why.verdict === 'hold'
        ? 'The pack is on hold: nobody may charge or fly it.'
        : `The pack may not be flown: ${VERDICT_WORDS[why.verdict].toLowerCase()}.`;
    case 'look-first':
      return 'The pack is to be looked over before it flies.';
    case 'measure-first':
      return 'The pack is to be read before it flies.';
    case 'unfit':
      return why.checks.map(fitSentence).join(' ');
    case 'in-other-hands':
      return `${person(why.holderId)} has it.`;
    default:
      return why satisfies never;
  }
}

/** What a craft's returns have shown of the step from hover to rested volts, and how surely. */
export function hoverStepSentence(step: HoverStep | null): string {
  if (!step)
    return `The step from hover to rested volts is not learned yet; it is commonly ${volts(USUAL_STEP_MV.least)} to ${volts(USUAL_STEP_MV.most)} V.`;
  const left = step.leftOut > 0 ? `; ${plural(step.leftOut, 'odd one')} left out` : '';
  return `Packs rest ${(step.stepMv / 1000).toFixed(3)} V a cell above what they read at a hover, give or take ${(step.plusMinusMv / 1000).toFixed(3)} V, by ${plural(step.returns, 'return')}${left}.`;
}
