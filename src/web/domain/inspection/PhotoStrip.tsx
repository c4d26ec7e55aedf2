import { useEffect, useId, useState } from 'react';
import type { PhotoId } from '../../../core/measure';
import { photoAddress, takePhoto } from '../../app/photos';
import { Sheet } from '../../kit/Sheet';

/** Photos at an item, and the way to take another: the camera on a phone, a file on a laptop. */
export function PhotoStrip({
  label,
  ids,
  onAdd,
}: {
  /** What the photos are of, for a screen reader. */
  label: string;
  ids: readonly PhotoId[];
  onAdd: (id: PhotoId) => void;
}) {
  const field = useId();
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState<string | null>(null);
  const take = async (files: readonly File[]) => {
    setBusy(true);
    setRefused(null);
    for (const file of files) {
      const taken = await takePhoto(file);
      if (taken.outcome === 'taken') onAdd(taken.id);
      else setRefused(taken.why);
    }
    setBusy(false);
  };
  return (
    <span className="flex flex-wrap items-center gap-2">
      {ids.map((id, i) => (
        <Photo key={id} id={id} label={`Photo ${i + 1} of ${label}`} />
      ))}
      <span className="relative inline-flex min-h-11 items-center md:min-h-8">
        <input
          id={field}
          type="file"
          accept="image/*"
          capture="environment"
          aria-label={`Photo of ${label}`}
          disabled={busy}
          onChange={(event) => {
            const files = [...(event.target.files ?? [])];
            event.target.value = '';
            void take(files);
          }}
          className="peer absolute inset-0 cursor-pointer opacity-0"
        />
        <span className="rounded-sm border-[1.5px] border-accent px-3 py-2 font-bold text-accent peer-focus-visible:outline-3 peer-focus-visible:outline-offset-2 peer-focus-visible:outline-accent md:py-0.5">
          {busy ? 'Taking it in …' : 'Photo'}
        </span>
      </span>
      {refused && (
        <span role="alert" className="basis-full font-bold text-red">
          {refused}
        </span>
      )}
    </span>
  );
}

/** A small picture that opens large. */
export function Photo({ id, label }: { id: PhotoId; label: string }) {
  const [open, setOpen] = useState(false);
  const small = useAddress(id, 'thumbnail');
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="size-11 border border-rule bg-press"
        aria-label={label}
      >
        {small && <img src={small} alt="" loading="lazy" className="size-full object-cover" />}
      </button>
      <Sheet open={open} onClose={() => setOpen(false)} title={label}>
        <FullPhoto id={id} label={label} />
      </Sheet>
    </>
  );
}

function FullPhoto({ id, label }: { id: PhotoId; label: string }) {
  const large = useAddress(id, 'full');
  return large ? <img src={large} alt={label} className="w-full" /> : null;
}

function useAddress(id: PhotoId, size: 'full' | 'thumbnail'): string | null {
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => {
    let own: string | null = null;
    let gone = false;
    void photoAddress(id, size).then((found) => {
      own = found;
      if (gone && found.startsWith('blob:')) URL.revokeObjectURL(found);
      else setAddress(found);
    });
    return () => {
      gone = true;
      if (own?.startsWith('blob:')) URL.revokeObjectURL(own);
    };
  }, [id, size]);
  return address;
}
