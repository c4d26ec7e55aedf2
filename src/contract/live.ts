import type { IncidentId, PackId, RoundId } from '../core/measure';

/** What a live connection says: something about these changed; ask again. */
export type LiveMessage =
  | { readonly about: 'pack'; readonly packId: PackId; readonly seq: number }
  | { readonly about: 'register' }
  | { readonly about: 'round'; readonly roundId: RoundId }
  | { readonly about: 'incident'; readonly incidentId: IncidentId }
  | { readonly about: 'consignment' }
  /** The plan, what runs, who attends, a flying day. */
  | { readonly about: 'charging' }
  /** The register is being judged under new rules; this far has it come. */
  | { readonly about: 'rules' };

/** A line of an answer that takes a while: how far it is, and at the end the answer itself. */
export type ProgressLine<Answer> =
  { readonly done: number; readonly of: number } | { readonly answer: Answer };
