import { Toast } from 'radix-ui';
import { useEffect } from 'react';
import { useLocation } from 'react-router';
import { sayNothing, useNotices } from './notices';

const SHOWN_MS = 6_000;
/** A page left so soon was left by what was done; one left later was left by a hand, and what was said is about something else. */
const OF_THE_DEED_MS = 700;

/** Where what {@link say} says is seen and, by a screen reader, heard. */
export default function Notices() {
  const { text, number } = useNotices();
  const { pathname } = useLocation();
  useEffect(() => {
    if (Date.now() - useNotices.getState().saidAt > OF_THE_DEED_MS) sayNothing();
  }, [pathname]);
  return (
    <Toast.Provider duration={SHOWN_MS} swipeDirection="down" label="Notice">
      {text !== null && (
        <Toast.Root key={number} type="background" onOpenChange={(open) => !open && sayNothing()}>
          <Toast.Description className="border-2 border-ink bg-ink px-4 py-2 font-bold text-ground">
            {text}
          </Toast.Description>
        </Toast.Root>
      )}
      <Toast.Viewport
        label="What was done ({hotkey})"
        className="pointer-events-none fixed inset-x-3 bottom-20 z-40 flex justify-center md:bottom-6 print:hidden"
      />
    </Toast.Provider>
  );
}
