import type { MachineTrouble, TodayAnswer } from '../../../contract';
import { durationWords } from '../../../core/wording';
import { Notice } from '../../kit/Message';

/** What is wrong with the machine the register runs on: everybody sees it, since nobody may rely on what follows from it. */
export function MachineTroubles({ troubles }: { troubles: TodayAnswer['machine'] }) {
  return troubles.map((trouble) => (
    <Notice key={trouble.what} title={titleOf(trouble)}>
      <p>{restOf(trouble)} Tell whoever runs the server.</p>
    </Notice>
  ));
}

function titleOf(trouble: MachineTrouble): string {
  switch (trouble.what) {
    case 'clock-behind':
      return `The server’s clock is ${durationWords(trouble.minutes)} behind.`;
    case 'space-low':
      return `The server’s disk is nearly full: ${trouble.freeMb} MB are left.`;
    case 'space-out':
      return `The server’s disk is full: ${trouble.freeMb} MB are left.`;
    default:
      return trouble satisfies never;
  }
}

function restOf({ what }: MachineTrouble): string {
  switch (what) {
    case 'clock-behind':
      return 'It has written down later times than it shows now. Until it is set right, storage clocks and due times are told too late.';
    case 'space-low':
      return 'When there is less, nothing more can be written. Make room, or move the register to a larger disk.';
    case 'space-out':
      return 'Everything can still be read. What you write stays on your device and is sent when there is room.';
    default:
      return what satisfies never;
  }
}
