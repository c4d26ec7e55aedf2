import { Check } from 'lucide-react';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { tagScanned } from '../../app/scan';
import { Button } from '../../kit/Button';
import { Notice } from '../../kit/Message';
import { codeReader } from './detector';

/** So often the picture is looked at: quicker than a hand moves on, slow enough for an old phone. */
const LOOK_EVERY_MS = 200;
/** A code that stays in the picture is one scan. */
const SAME_FOR_MS = 3_000;

/** Why there is no picture. */
type Trouble = 'refused' | 'none' | 'insecure';

const TROUBLE_WORDS: Readonly<Record<Trouble, string>> = {
  refused:
    'The camera may not be used here. Allow it in the browser’s settings of this page, or type the tag.',
  none: 'No camera was found. Type the tag.',
  insecure: 'Browsers give no camera to a page without HTTPS. Type the tag, or open Malle over HTTPS.',
};

/** The phone's camera as a scanner: several codes in a row, each with a tick. */
export default function CameraScan({
  onScan,
  onClose,
}: {
  onScan: (scanned: string) => void;
  onClose: () => void;
}) {
  const video = useRef<HTMLVideoElement>(null);
  const [scanned, setScanned] = useState<readonly string[]>([]);
  const [trouble, setTrouble] = useState<Trouble | null>(window.isSecureContext ? null : 'insecure');
  const [lookingFrom, setLookingFrom] = useState<'starting' | 'looking'>('starting');
  const seen = useRef(new Map<string, number>());
  /** One code a look, even of several in the picture: whoever takes a scan has seen the one before by then. */
  const found = useEffectEvent((codes: readonly string[]) => {
    const now = Date.now();
    const isNew = (code: string) => now - (seen.current.get(code) ?? 0) >= SAME_FOR_MS;
    const next = codes.find(isNew);
    for (const code of codes) if (code === next || !isNew(code)) seen.current.set(code, now);
    if (next === undefined) return;
    navigator.vibrate?.(60);
    setScanned((known) => [...known.filter((one) => one !== tagScanned(next)), tagScanned(next)]);
    onScan(next);
  });
  useEffect(() => {
    const picture = video.current;
    if (!picture || !window.isSecureContext) return undefined;
    let stopped = false;
    let stream: MediaStream | null = null;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = async () => {
      stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } });
      if (stopped) return end();
      picture.srcObject = stream;
      await picture.play();
      const reader = await codeReader();
      setLookingFrom('looking');
      const again = async () => {
        if (stopped) return;
        // A single picture that cannot be read says nothing; the next one comes at once.
        found(await reader.read(picture).catch(() => []));
        timer = setTimeout(() => void again(), LOOK_EVERY_MS);
      };
      await again();
    };
    const end = () => stream?.getTracks().forEach((track) => track.stop());
    look().catch((error: unknown) => {
      if (!stopped)
        setTrouble(error instanceof DOMException && error.name === 'NotAllowedError' ? 'refused' : 'none');
    });
    return () => {
      stopped = true;
      clearTimeout(timer);
      end();
    };
  }, []);
  return (
    <div>
      {trouble ? (
        <Notice title={TROUBLE_WORDS[trouble]} />
      ) : (
        <>
          <video
            ref={video}
            muted
            playsInline
            aria-label="What the camera sees"
            className="max-h-[50vh] w-full bg-ink object-cover"
          />
          <p role="status" className="mt-1 text-sm text-faint">
            {lookingFrom === 'starting'
              ? 'Starting the camera …'
              : 'Hold a label into the picture; one after the other.'}
          </p>
        </>
      )}
      <ul aria-label="Scanned" className="mt-2 flex flex-wrap gap-2">
        {scanned.map((tag) => (
          <li
            key={tag}
            className="inline-flex items-center gap-1 border-[1.5px] border-ink px-2 py-1 font-mono font-bold"
          >
            <Check size={16} strokeWidth={3} className="text-leaf" aria-hidden="true" />
            {tag}
          </li>
        ))}
      </ul>
      <Button weight="main" className="mt-4" onClick={onClose}>
        {scanned.length === 0 ? 'Close' : 'Done'}
      </Button>
    </div>
  );
}
