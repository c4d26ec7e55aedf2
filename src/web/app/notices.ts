import { create } from 'zustand';

/** What was said last; the number tells two with the same words apart. */
interface NoticeState {
  readonly text: string | null;
  readonly number: number;
  readonly saidAt: number;
}

export const useNotices = create<NoticeState>(() => ({ text: null, number: 0, saidAt: 0 }));

/** What a form says when what was handed in waits in the outbox. */
export const KEPT_HERE = 'No connection: kept on this device, and sent when it is back.';

/** Says in one line that something was done. What was said before goes. */
export function say(text: string): void {
  useNotices.setState(({ number }) => ({ text, number: number + 1, saidAt: Date.now() }));
}

export function sayNothing(): void {
  useNotices.setState({ text: null });
}
