import type { DeviceId, IncidentId, PackId, PersonId, RoundId } from '../core/measure';
import type { DeviceAnswer, PackRow } from './answers';
import type { DeviceAnswerLine } from './devices';

/** A pack has a new record. Its row in lists comes along, unless so many packs changed at once that a page had better ask for the list. */
export interface PackChanged {
  readonly about: 'pack';
  readonly packId: PackId;
  readonly seq: number;
  readonly row?: PackRow;
}

/** What a live connection says: something about these changed; ask again. */
export type LiveMessage =
  | PackChanged
  | { readonly about: 'register' }
  | { readonly about: 'round'; readonly roundId: RoundId }
  | { readonly about: 'incident'; readonly incidentId: IncidentId }
  | { readonly about: 'consignment' }
  /** The plan, what runs, who attends, a flying day. */
  | { readonly about: 'charging' }
  /** A device came, went, was changed or was taken by another page; ask again. */
  | { readonly about: 'devices' }
  /** What a device shows now. It is told whole, since asking again would come too late. */
  | {
      readonly about: 'device';
      readonly deviceId: DeviceId;
      readonly meter?: DeviceAnswer['meter'];
      readonly memory?: DeviceAnswer['memory'];
      readonly channel?: DeviceAnswer['channels'][number];
    }
  /** Somebody stops a channel: for whichever process its charger is connected to. */
  | { readonly about: 'stop'; readonly deviceId: DeviceId; readonly channel: string; readonly why: string }
  /** Somebody sets the pack on a reader. */
  | {
      readonly about: 'write';
      readonly deviceId: DeviceId;
      readonly line: Extract<DeviceAnswerLine, { type: 'write' }>;
    }
  /** Sessions of a person ended: whoever listens for them looks whether they still may. Browsers are not told. */
  | { readonly about: 'access'; readonly personId: PersonId }
  /** The register is being judged under new rules; this far has it come. */
  | { readonly about: 'rules' };

/** A line of an answer that takes a while: how far it is, and at the end the answer itself. */
export type ProgressLine<Answer> =
  { readonly done: number; readonly of: number } | { readonly answer: Answer };
