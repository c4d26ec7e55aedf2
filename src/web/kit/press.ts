/** The main press of a page stays above the sections under a thumb, and stands where it belongs at the bench. */
export const STICKS =
  'sticky bottom-14 z-10 -mx-3 border-t border-rule bg-ground px-3 py-2 md:static md:mx-0 md:border-0 md:px-0';

/** A pack's tag as the way to its page: tall enough for a thumb. */
export const TAG =
  'inline-flex min-h-11 items-center font-mono text-lg font-bold text-accent underline-offset-3 hover:underline md:min-h-8';
