import { setTimeout as pause } from 'node:timers/promises';

/** What does not come in this time never will, on however slow a machine. */
const LONGEST_MS = 300_000;

/**
 * Asks again and again until the answer is a wanted one. A test that waits says what for; it never rests so long and hopes.
 * @returns the first wanted answer
 * @throws when none came in five minutes, with the last that did
 */
export async function until<Answer>(
  ask: () => Answer | Promise<Answer>,
  isWanted: (answer: Answer) => boolean,
): Promise<Answer> {
  const began = performance.now();
  for (;;) {
    const answer = await ask();
    if (isWanted(answer)) return answer;
    if (performance.now() - began > LONGEST_MS)
      throw new Error(`It never came; at last there was ${JSON.stringify(answer)}`);
    await pause(20);
  }
}
