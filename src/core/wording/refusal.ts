import type { Verdict } from '../assess';
import type { VoltsRefusal } from '../reading';
import type { RecordRefusal, OddFigure } from '../admission';
import { drainRefusalSentence, lackWords, needSentence, LIFE_WORDS } from './lifecycle';
import { amps, plural, volts } from './figures';
import { VERDICT_WORDS } from './step';

/** What is wrong with typed volts, and what to type instead. */
export function voltsRefusalSentence(why: VoltsRefusal): string {
  switch (why.code) {
    case 'not-a-number':
      return `“${why.token}” is not a voltage. Type volts like 384, 3.84 or 3,84.`;
    case 'too-coarse':
      return `“${why.token}” is too coarse. Type hundredths: 380 for 3.80 V.`;
    case 'negative':
      return `“${why.token}” is below zero: the meter's leads are the wrong way round, or a cell is reversed. A reversed cell takes the pack out of use; do not charge it.`;
    case 'impossible':
      return `Cell ${why.cell} at ${volts(why.mv)} V cannot be: this chemistry never shows more than ${volts(why.maxMv)} V. Check the figure and the pack.`;
    case 'too-few':
      return `${why.given} of ${plural(why.wanted, 'cell')} typed. Every cell counts: the lowest decides.`;
    case 'too-many':
      return `${why.given} values for a ${why.wanted}-cell pack. Is this the right tag, or was one cell typed twice?`;
    case 'pack-total':
      return `${volts(why.packMv)} V for the pack is ${volts(why.averageMv)} V a cell on average, which hides a weak one. Type all ${plural(why.wanted, 'cell')}.`;
    case 'total-disagrees':
      return `The cells add up to ${volts(why.sumMv)} V but the pack is given as ${volts(why.totalMv)} V. Read it again.`;
    default:
      return why satisfies never;
  }
}

/** Why the ledger does not take a record, and what to do about it. */
export function recordRefusalSentence(why: RecordRefusal): string {
  switch (why.code) {
    case 'cell-count':
      return `This pack has ${plural(why.wanted, 'cell')}, but ${plural(why.given, 'voltage')} came. Check the tag and type every cell once.`;
    case 'cell-impossible':
      return `Cell ${why.cell} at ${volts(why.mv)} V cannot be: this chemistry never shows more than ${volts(why.maxMv)} V.`;
    case 'cells-wanted':
      return `The pack's total hides the weak cell. Give all ${plural(why.wanted, 'cell')}.`;
    case 'in-the-future':
      return 'This time has not come yet. Give the moment it happened.';
    case 'before-receipt':
      return 'This is dated before the pack was received. Correct the date, or correct the receipt first.';
    case 'received-twice':
      return 'This pack has been received already; a pack is received once.';
    case 'corrects-nothing':
      return 'There is no such record on this pack to correct. Corrections themselves are replaced by correcting the same record again.';
    case 'corrects-other-kind':
      return `A ${why.kind} can only be replaced by a ${why.kind}.`;
    case 'receipt-stays':
      return 'A receipt can be put right but not withdrawn: the pack is here.';
    case 'not-yours-to-correct':
      return 'This is somebody else’s record. Ask them, a deputy or the custodian to correct it.';
    case 'out-of-use':
      return `This pack was ${wasOutOfUse(why.verdict)} at that time: nobody may charge, fly or take it out. If it happened all the same, report it as an incident.`;
    case 'not-among-sound':
      return 'A pack that is out of use does not lie among sound ones. Choose a place for packs set apart, or no place.';
    case 'would-release':
      return why.lacks === 'right'
        ? 'This would end a hold, which only the custodian or a deputy may. Ask them to correct it.'
        : 'This would end a hold without a look. Inspect the pack again first; then this can be put right.';
    case 'through-its-own':
      return why.what === 'incident'
        ? 'Report the incident; the pack’s record is written with it.'
        : 'Put the pack on a consignment; its record is written with it.';
    case 'watch-not-running':
      return 'No such quarantine is running on this pack.';
    case 'recycled':
      return 'This pack is recycled. Only a note can still be added.';
    case 'not-in-service':
      return 'This pack is retired already; see how it stands now.';
    case 'nothing-to-release':
      return 'Nothing holds this pack, so there is nothing to release.';
    case 'answers-other':
      return 'What speaks against this pack is not what was on your screen. Look at it again, then decide.';
    case 'release-lacks':
      return `Not yet: ${why.needs.map((need) => needSentence(need, null)).join(' ')}`;
    case 'watch-wanted':
      return WATCH_WANTED[why.which];
    case 'names-other':
      return why.secondWanted
        ? 'The house rules now ask for two names under a retirement. Look again, then decide.'
        : 'The house rules ask for one name only. Look again, then decide.';
    case 'no-second-wanted':
      return 'No retirement of this pack waits for a second name.';
    case 'same-person':
      return 'You gave the first name. The second must come from another person, signed in as themselves.';
    case 'before-last-record':
      return 'A decision cannot be dated before the latest record it rests on.';
    case 'no-way-on':
      return `This step does not follow: the pack is ${LIFE_WORDS[why.state]}.`;
    case 'harmed':
      return 'This pack is swollen, punctured, burnt or leaking: it must not be discharged. Declare it unsafe and pack it apart.';
    case 'not-empty':
      return `Cell ${why.cell} still reads ${volts(why.mv)} V. Empty is 0.10 V a cell or less: discharge it further.`;
    case 'too-soon':
      return 'It must rest for its full time first: cells come back by themselves.';
    case 'wrong-container':
      return CONTAINER_WANTED[why.wanted];
    case 'drained-only':
      return 'The house rules hand over discharged packs only. Discharge it first.';
    case 'not-at-storage':
      return 'Only a pack that was read rested in its storage band leaves charged. Bring it to storage and read it, or discharge it.';
    case 'container-full':
      return 'This container is at its limit. Consign what lies in it first, or choose another.';
    case 'other-consignment':
      return 'The pack stands on another consignment.';
    case 'before-last-step':
      return 'This is dated before the step it follows.';
    case 'wrong-load':
      return drainRefusalSentence(why.why);
    case 'recovery-lacks':
      return `No recovery: ${why.lacks.map(lackWords).join(' ')}`;
    case 'no-recovery-runs':
      return 'No recovery of this pack is running.';
    case 'recovery-current':
      return `Too much: up to ${amps(why.mostA)} for this pack.`;
    case 'recovery-time-over':
      return 'The time was over before it came up. End it as out of time; the pack goes.';
    case 'recovery-warm':
      return 'It got warm: the recovery is over. End it as warm; the pack goes.';
    case 'no-memory':
      return 'The register does not know it as a smart pack. Say so under Edit facts first.';
    case 'still-watched':
      return 'Nobody goes near this pack yet: it was shocked or wrongly charged, and stays in quarantine for its full time first.';
    default:
      return why satisfies never;
  }
}

/** The question asked once at a figure that cannot be; kept all the same when saved again. */
export function oddFigureQuestion(odd: OddFigure): string {
  switch (odd.code) {
    case 'out-of-too-little':
      return `${odd.mah} mAh out of a pack that held about ${Math.round(odd.mostMah)}? Save once more if it is right.`;
    case 'into-too-little':
      return `${odd.mah} mAh into a pack with room for about ${Math.round(odd.mostMah)}? Save once more if it is right.`;
    case 'count-fell':
      return `${odd.now} after it had counted ${odd.was}: a counter does not go back. Is this another pack’s memory? Save once more if it is right.`;
    case 'other-number':
      return `The memory of this pack has said ${odd.was} so far. Is this another pack’s? Save once more if it is right.`;
    default:
      return odd satisfies never;
  }
}

function wasOutOfUse(verdict: Verdict): string {
  return verdict === 'hold' ? 'on hold' : VERDICT_WORDS[verdict];
}

const WATCH_WANTED = {
  'a-day': 'An advice to retire can be put off to a day, not for good. Say until when it stays on caution.',
  'for-good': 'A recovered pack stays on caution for good.',
  some: 'A crashed pack stays on caution for some time. Say until when, or for good.',
  future: 'This day has passed already.',
  sooner: 'That is more than two years ahead. Choose an earlier day, or keep it on caution for good.',
} as const;

const CONTAINER_WANTED = {
  recycling: 'Choose a recycling container. Settings, Places says which places are one.',
  apart: 'A harmed pack goes into a container for packs set apart, not among discharged ones.',
  sound: 'This container is for harmed packs. Choose one for discharged packs.',
} as const;
