export const FELT = ['cool', 'lukewarm', 'warm', 'hot'] as const;
/** How warm a pack feels to a bare hand; `hot` is too hot to touch. A scale of its own beside degrees. Source: the practice. */
export type Felt = (typeof FELT)[number];
