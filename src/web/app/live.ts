import { create } from 'zustand';
import type { LiveMessage, PackChanged } from '../../contract';
import type { Instant, PackId } from '../../core/measure';
import { currentTime } from './clock';
import { outdated, refreshHistories } from '../domain/histories';
import { openedOfflineCopy, stillReading } from './offlineCopy';
import { deviceShows } from './devices';
import { KEYS, putRows, queryClient, refreshRows } from './queries';
import { onceSettled } from './settled';

export type LiveState = 'connecting' | 'live' | 'lost';

/** Whether this page hears of changes as they happen. */
export const useLive = create<{
  readonly state: LiveState;
  /** When it last heard from the register, once the line is lost. */
  readonly heardAt: Instant | null;
}>(() => ({ state: 'connecting', heardAt: null }));

const GATHER_MS = 120;
/** Beyond this many packs at once the whole list is fetched anew. */
const FEW_PACKS = 50;
const RETRY_MS = 2_000;
/** The server beats every 20 s; two missed beats are a dead line. */
const SILENCE_MS = 45_000;

/**
 * Listens for changes and has what is on screen fetched again. After a gap everything is: messages may have been missed.
 * @param onConnect called whenever the connection is there (again)
 */
export function startLive(onConnect: () => void): () => void {
  const changed = new Map<PackId, PackChanged>();
  let source: EventSource | null = null;
  let retry: ReturnType<typeof setTimeout> | undefined;
  let gather: ReturnType<typeof setTimeout> | undefined;
  let silence: ReturnType<typeof setTimeout> | undefined;
  let hadGap = openedOfflineCopy() !== null;
  let heardAt = openedOfflineCopy() ?? currentTime();

  const settle = () => {
    gather = undefined;
    const told = [...changed.values()];
    const behind = outdated(new Map(told.map(({ packId, seq }) => [packId, seq])));
    changed.clear();
    void refreshHistories(behind).catch(() => undefined);
    for (const { packId: id } of told) void queryClient.invalidateQueries({ queryKey: KEYS.pack(id) });
    void queryClient.invalidateQueries({ queryKey: KEYS.today });
    void queryClient.invalidateQueries({ queryKey: KEYS.endOfLife });
    void queryClient.invalidateQueries({ queryKey: KEYS.flying });
    const unknown = told.filter(({ row }) => !row).map(({ packId }) => packId);
    putRows(told.flatMap(({ row }) => row ?? []));
    if (unknown.length > FEW_PACKS) void queryClient.invalidateQueries({ queryKey: KEYS.packs });
    else void refreshRows(unknown).catch(() => queryClient.invalidateQueries({ queryKey: KEYS.packs }));
  };

  const lost = () => {
    hadGap = true;
    useLive.setState({ state: 'lost', heardAt });
  };
  /** A line that went dead without a word is noticed by the server's beat staying away. */
  const heard = () => {
    heardAt = currentTime();
    clearTimeout(silence);
    silence = setTimeout(reconnect, SILENCE_MS);
  };
  const reconnect = () => {
    lost();
    source?.close();
    clearTimeout(retry);
    connect();
  };

  const connect = () => {
    source = new EventSource('/api/live');
    source.onopen = () => {
      useLive.setState({ state: 'live' });
      if (hadGap) askAnew();
      // What happened between the page's first questions and this line was told to nobody.
      else {
        void queryClient.invalidateQueries({ queryKey: KEYS.devices });
        onceSettled(lookAgain);
      }
      hadGap = false;
      heard();
      onConnect();
    };
    source.addEventListener('beat', heard);
    source.onmessage = ({ data }: MessageEvent<string>) => {
      heard();
      const message = JSON.parse(data) as LiveMessage;
      if (message.about === 'register') {
        askAnew();
        return;
      }
      if (message.about === 'rules') {
        void queryClient.invalidateQueries({ queryKey: KEYS.rules });
        return;
      }
      if (message.about === 'round') {
        void queryClient.invalidateQueries({ queryKey: KEYS.round(message.roundId) });
        void queryClient.invalidateQueries({ queryKey: KEYS.rounds });
        return;
      }
      if (message.about === 'incident') {
        void queryClient.invalidateQueries({ queryKey: KEYS.incidents });
        void queryClient.invalidateQueries({ queryKey: KEYS.today });
        return;
      }
      if (message.about === 'consignment') {
        void queryClient.invalidateQueries({ queryKey: KEYS.endOfLife });
        return;
      }
      if (message.about === 'charging') {
        void queryClient.invalidateQueries({ queryKey: KEYS.charging });
        void queryClient.invalidateQueries({ queryKey: KEYS.flying });
        void queryClient.invalidateQueries({ queryKey: KEYS.today });
        return;
      }
      if (message.about === 'devices') {
        void queryClient.invalidateQueries({ queryKey: KEYS.devices });
        return;
      }
      if (message.about === 'device') {
        deviceShows(message);
        return;
      }
      if (message.about === 'stop' || message.about === 'write' || message.about === 'access') return;
      changed.set(message.packId, message);
      gather ??= setTimeout(settle, GATHER_MS);
    };
    source.onerror = () => {
      lost();
      // A browser gives up for good on an answer that is no stream, such as a proxy's error page.
      if (source?.readyState !== EventSource.CLOSED) return;
      // The register answered, and would not be listened to: the session may have been ended from elsewhere.
      void queryClient.invalidateQueries({ queryKey: KEYS.session });
      retry = setTimeout(connect, RETRY_MS);
    };
  };
  connect();
  window.addEventListener('offline', lost);
  window.addEventListener('online', reconnect);
  return () => {
    source?.close();
    for (const timer of [retry, gather, silence]) clearTimeout(timer);
    window.removeEventListener('offline', lost);
    window.removeEventListener('online', reconnect);
  };
}

/** Asks once more for what a page shows of packs. Of what is as it was, the register says just that. */
function lookAgain(): void {
  for (const queryKey of [KEYS.register, KEYS.packs, KEYS.anyPack, KEYS.today, KEYS.flying, KEYS.charging])
    void queryClient.invalidateQueries({ queryKey });
}

/** Everything may have changed: what is on the page is asked for again, and what was told ahead no longer holds. */
function askAnew(): void {
  void queryClient.resetQueries({ queryKey: KEYS.laterRows });
  void queryClient.invalidateQueries();
  // What this device was told before may still be on its way to the page, and would stand there as if it were of now.
  void stillReading()?.then((kinds) => {
    void queryClient.resetQueries({ queryKey: KEYS.laterRows });
    for (const kind of kinds) void queryClient.invalidateQueries({ queryKey: [kind] });
  });
}
