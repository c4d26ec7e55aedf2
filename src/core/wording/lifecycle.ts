import type { RecoveryLack } from '../admission';
import type { ReleaseNeed } from '../assess';
import type { DrainRefusal } from '../charging';
import type { DisposalPayload, DisposalStep, DrainLoad, DrainPlace, LifeState } from '../lifecycle';
import type { PlaceId } from '../measure';
import { amps, volts } from './figures';
import { whenWords } from './time';
import type { Reader } from './time';

/** How a pack stands on its way out, to follow "the pack is". */
export const LIFE_WORDS: Readonly<Record<LifeState, string>> = {
  'in-service': 'in service',
  retiring: 'waiting for a second name',
  retired: 'retired',
  marked: 'marked with a red band',
  discharging: 'being discharged',
  resting: 'read as empty, resting',
  flat: 'empty, read twice',
  unsafe: 'unsafe to discharge',
  insulated: 'insulated',
  binned: 'in the recycling container',
  consigned: 'on a consignment',
  recycled: 'recycled',
};

/** What was done, as a line of the pack's life. */
const DISPOSAL_WORDS: Readonly<Record<DisposalStep, string>> = {
  marked: 'Marked with a red band',
  discharging: 'Put on its last discharge',
  verified: 'Read on its way to empty',
  unsafe: 'Declared unsafe to discharge',
  insulated: 'Contacts covered',
  'insulated-charged': 'Contacts covered at storage charge',
  binned: 'Into the recycling container',
  consigned: 'Put on a consignment',
  'taken-back': 'Taken off the consignment',
  recycled: 'Handed over to the recycler',
  reinstated: 'Put back into service',
};

/** Where a pack is drained. */
export const DRAIN_PLACE_WORDS: Readonly<Record<DrainPlace, string>> = {
  outdoors: 'outdoors',
  fireproof: 'where nothing can catch fire',
};

/** A step with the check it stands for, in one line. */
export function disposalLine(payload: DisposalPayload, place: (id: PlaceId) => string): string {
  const done = DISPOSAL_WORDS[payload.step];
  switch (payload.step) {
    case 'marked':
    case 'consigned':
    case 'recycled':
      return done;
    case 'discharging':
      return `${done}: ${loadWords(payload.load)}, ${DRAIN_PLACE_WORDS[payload.where]}, watched by ${payload.attendant}`;
    case 'verified':
      return `${done}: ${payload.cellsMv.map(volts).join(' ')} V`;
    case 'unsafe':
      return `${done}: ${payload.why}`;
    case 'insulated':
    case 'insulated-charged':
      return `${done}: ${payload.how}`;
    case 'binned':
      return `${done}: ${place(payload.placeId)}`;
    case 'taken-back':
    case 'reinstated':
      return `${done}: ${payload.reason}`;
    default:
      return payload satisfies never;
  }
}

function loadWords(load: DrainLoad): string {
  switch (load.by) {
    case 'lamp':
      return `lamp ${load.ratedV} V ${load.ratedW} W`;
    case 'resistor':
      return `resistor ${load.ohms} Ω ${load.ratedW} W`;
    case 'charger':
      return `${load.charger}, end-of-life mode`;
    default:
      return load satisfies never;
  }
}

/** What a release wants, as an instruction when it is not there and as a fact when it is. Without a reader, without times. */
export function needSentence(need: ReleaseNeed, reader: Reader | null): string {
  const at = (when: number) => (reader ? whenWords(when, reader) : null);
  switch (need.need) {
    case 'watch-over':
      return need.met
        ? 'The quarantine is over.'
        : `Keep off until the quarantine is over${reader ? `, ${at(need.until)}` : ''}.`;
    case 'inspection': {
      const which = need.afterCrash ? 'the after-crash list' : 'a full list';
      if (need.met) return `Inspected by ${which} and found sound.`;
      if (need.found === 'faults')
        return `Its inspection found faults. Inspect it again by ${which} once they are put right.`;
      return `Inspect it by ${which}${reader ? `, from ${at(need.since)} on` : ''}.`;
    }
    case 'reading':
      return need.met ? 'Read rested since.' : 'Read its cells rested.';
    case 'recovery':
      if (need.met) return 'Recovered under supervision and read after its rest.';
      return need.readFrom === null
        ? 'Only a supervised recovery brings it back.'
        : `Read it rested${reader ? ` from ${at(need.readFrom)} on` : ' after its rest'}.`;
    case 'nothing-releases':
      return 'Nothing releases it: it is to be retired.';
    case 'a-day':
      return 'It may stay on caution until a day you name.';
    default:
      return need satisfies never;
  }
}

/** Why a load is not to be hung on a pack. */
export function drainRefusalSentence(why: DrainRefusal): string {
  switch (why.code) {
    case 'lamp-below-pack':
      return `A lamp rated ${why.ratedV} V burns out on a pack of ${rounded(why.packV)} V and leaves it charged. Take one rated for ${Math.ceil(why.packV)} V or more, or lamps in series.`;
    case 'resistor-too-small':
      return `It would get ${rounded(why.peakW)} W and stands ${why.ratedW} W. Take a larger resistor, or more ohms.`;
    case 'load-beyond-pack':
      return `That draws ${amps(why.amps)}, more than a gentle ${amps(why.mostA)} for this pack. Take a smaller load.`;
    case 'not-a-load':
      return 'Give what the label says: volts and watts, or ohms and watts, above nothing.';
    default:
      return why satisfies never;
  }
}

function rounded(value: number): string {
  return String(Math.round(value * 10) / 10);
}

/** What the records do not show for a supervised recovery. */
export function lackWords(lack: RecoveryLack): string {
  return LACKS[lack];
}

const LACKS: Readonly<Record<RecoveryLack, string>> = {
  'not-the-school': 'The rules say to retire over-discharged packs.',
  'not-over-discharged': 'No cell of this pack went below its damage floor.',
  running: 'One is running already.',
  'tried-before': 'It was tried before; it is not tried twice.',
  'cell-too-low': 'A cell went too low to be brought back.',
  'no-inspection': 'It was not inspected since. Inspect it by a full list.',
  damaged: 'Its inspection found a fault, or it is harmed.',
  'cause-unknown': 'The cause must be known, and not be damage.',
};
