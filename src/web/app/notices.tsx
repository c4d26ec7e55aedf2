import { useEffect } from 'react';
import { useLocation } from 'react-router';
import { create } from 'zustand';

interface NoticeState {
  readonly text: string | null;
  readonly saidAt: number;
}

const useNotices = create<NoticeState>(() => ({ text: null, saidAt: 0 }));
const SHOWN_MS = 6_000;
/** A page left so soon was left by what was done; one left later was left by a hand, and what was said is about something else. */
const OF_THE_DEED_MS = 700;
let timer: ReturnType<typeof setTimeout> | undefined;

/** What a form says when what was handed in waits in the outbox. */
export const KEPT_HERE = 'No connection: kept on this device, and sent when it is back.';

/** Says in one line that something was done. */
export function say(text: string): void {
  clearTimeout(timer);
  useNotices.setState({ text, saidAt: Date.now() });
  timer = setTimeout(() => useNotices.setState({ text: null }), SHOWN_MS);
}

/** Where {@link say} is heard; a screen reader hears it too. */
export function Notices() {
  const text = useNotices((state) => state.text);
  const { pathname } = useLocation();
  useEffect(() => {
    if (Date.now() - useNotices.getState().saidAt > OF_THE_DEED_MS) useNotices.setState({ text: null });
  }, [pathname]);
  return (
    <div
      role="status"
      className="pointer-events-none fixed inset-x-3 bottom-20 z-40 flex justify-center md:bottom-6 print:hidden"
    >
      {text && <p className="border-2 border-ink bg-ink px-4 py-2 font-bold text-ground">{text}</p>}
    </div>
  );
}
