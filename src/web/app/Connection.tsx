import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import type { PersonAnswer } from '../../contract';
import { whenWords } from '../../core/wording';
import { startClock, useReader } from './clock';
import { keepForOffline, useKept } from './keepForOffline';
import type { Kept } from './keepForOffline';
import { openedOfflineCopy } from './offlineCopy';
import { startLive, useLive } from './live';
import type { LiveState } from './live';
import { say } from './notices';
import { flushOutbox, useOwnItems } from './outbox';
import { KEYS, queryClient } from './queries';

const RESEND_MS = 5_000;

/** Keeps the page in step with the register for as long as somebody is signed in, and sends what waits. */
export function useConnection(person: PersonAnswer): void {
  useEffect(() => {
    const flush = () =>
      void flushOutbox(person.id, ({ incident }) => {
        if (incident) void queryClient.invalidateQueries({ queryKey: KEYS.incidents });
        say('What was waiting has been sent.');
      });
    const stopLive = startLive(flush);
    const stopClock = startClock();
    const stopKeeping = keepForOffline();
    const resend = setInterval(flush, RESEND_MS);
    return () => {
      stopLive();
      stopClock();
      stopKeeping();
      clearInterval(resend);
    };
  }, [person.id]);
}

const LIVE_LOOK: Readonly<Record<LiveState, { word: string; look: string }>> = {
  connecting: { word: 'connecting', look: 'text-faint' },
  live: { word: 'live', look: 'text-leaf' },
  lost: { word: 'no connection', look: 'text-red font-bold' },
};

/** Whether the page is live, and what waits to be sent or came back. */
export function Connection() {
  const state = useLive((live) => live.state);
  const items = useOwnItems();
  const waiting = items.filter((item) => item.state === 'waiting').length;
  const refused = items.filter((item) => item.state === 'refused');
  const { word, look } = LIVE_LOOK[state];
  return (
    <span role="status" className={`flex items-center gap-1.5 text-sm whitespace-nowrap ${look}`}>
      <svg viewBox="0 0 10 10" width="10" height="10" aria-hidden="true">
        <circle
          cx="5"
          cy="5"
          r="4"
          fill={state === 'live' ? 'currentColor' : 'none'}
          stroke="currentColor"
          strokeWidth="1.5"
        />
      </svg>
      <span className={state === 'live' ? 'max-md:sr-only' : 'max-sm:sr-only'}>{word}</span>
      {waiting > 0 && <span className="font-bold text-amber">{waiting} waiting</span>}
      {refused[0] && (
        <Link
          to={refused[0].packId ? `/packs/${refused[0].packId}` : '/incidents'}
          className="inline-flex min-h-6 items-center font-bold text-red underline"
        >
          {refused.length} not taken
        </Link>
      )}
    </span>
  );
}

/** A line that comes back sooner than this is not worth moving the page for. */
const SHORT_LOSS_MS = 5_000;

/** Of when the page is, while it hears nothing. */
export function LostLine() {
  const { state, heardAt } = useLive();
  const packs = useKept((kept) => kept.packs);
  const reader = useReader();
  const lost = state === 'lost';
  const [shown, setShown] = useState(openedOfflineCopy() !== null);
  useEffect(() => {
    if (!lost) return undefined;
    const timer = setTimeout(() => setShown(true), SHORT_LOSS_MS);
    return () => {
      clearTimeout(timer);
      setShown(false);
    };
  }, [lost]);
  if (!lost || !shown || heardAt === null) return null;
  return (
    <p className="mx-auto max-w-350 bg-wash-amber px-3 py-1.5 text-sm md:px-6 print:hidden">
      <b>No connection.</b> This page is as of {whenWords(heardAt, reader)}. {keptWords(packs)}What you write
      is kept on this device and sent later.
    </p>
  );
}

/** Whether any pack can be judged here, which is what somebody in the field wants to know. */
function keptWords(packs: Kept['packs']): string {
  if (packs === null || packs.of === 0) return '';
  if (packs.kept === packs.of) return `All ${packs.of} packs are on this device. `;
  return `${packs.kept} of ${packs.of} packs are on this device in full. `;
}
