import type { Felt } from '../reading';

/** How a pack feels to a bare hand, as a choice in a form. */
export const FELT_WORDS: Readonly<Record<Felt, string>> = {
  cool: 'cool',
  lukewarm: 'lukewarm',
  warm: 'warm',
  hot: 'too hot to touch',
};
