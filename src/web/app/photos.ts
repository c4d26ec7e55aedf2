import { openDB } from 'idb';
import type { DBSchema, IDBPDatabase } from 'idb';
import { v7 as newId } from 'uuid';
import type { EntryDraft } from '../../core/incident';
import type { PhotoId } from '../../core/measure';
import type { RecordDraft } from '../../core/record';
import { sendFile } from './api';

/** Pictures taken on this device and not yet with the register. They outlive the page, so a field evening loses none. */
interface PhotoStore extends DBSchema {
  readonly waiting: { readonly key: string; readonly value: Blob };
}

let opened: Promise<IDBPDatabase<PhotoStore>> | null = null;

function store(): Promise<IDBPDatabase<PhotoStore>> {
  opened ??= openDB<PhotoStore>('malle.photos', 1, {
    upgrade: (database) => void database.createObjectStore('waiting'),
  });
  return opened;
}

/** A file above this is no photo of a pack. */
const LARGEST_FILE_MB = 30;

export type TakenPhoto =
  { readonly outcome: 'taken'; readonly id: PhotoId } | { readonly outcome: 'refused'; readonly why: string };

/**
 * Takes a picture in: checked, made small in a worker so that the page goes on, kept on this device and sent as soon as
 * may be. What is refused is refused here, before anything is uploaded.
 */
export async function takePhoto(file: File): Promise<TakenPhoto> {
  const megabytes = file.size / 1_000_000;
  if (!file.type.startsWith('image/'))
    return {
      outcome: 'refused',
      why: `${file.name} is no picture. Take a photo, or choose a JPEG, PNG or WebP.`,
    };
  if (megabytes > LARGEST_FILE_MB)
    return {
      outcome: 'refused',
      why: `${file.name} has ${Math.round(megabytes)} MB; a photo has ${LARGEST_FILE_MB} at most. Take it at a lower resolution.`,
    };
  const reduced = await reducedBy(file);
  if (!reduced)
    return { outcome: 'refused', why: `${file.name} is broken or of a kind this browser cannot read.` };
  const id = newId() as PhotoId;
  try {
    await (await store()).put('waiting', reduced, id);
  } catch {
    return {
      outcome: 'refused',
      why: 'This browser keeps no pictures here: leave its private mode, or free some space.',
    };
  }
  // Sent now where there is a connection; the records that name it send it otherwise.
  void sendPhotos([id]).catch(() => undefined);
  return { outcome: 'taken', id };
}

let worker: Worker | null = null;

/** Has the worker that makes pictures small at hand, so that it is there when the connection is not. */
export function readyForPhotos(): Worker {
  worker ??= new Worker(new URL('../workers/photo.worker.ts', import.meta.url), { type: 'module' });
  return worker;
}

/** The picture at a size worth keeping; null when it cannot be read. */
function reducedBy(file: File): Promise<Blob | null> {
  const { port1, port2 } = new MessageChannel();
  return new Promise<Blob | null>((resolve) => {
    port1.onmessage = ({ data }: MessageEvent<Blob | null>) => resolve(data);
    const at = readyForPhotos();
    at.onerror = () => {
      // It never started: the next picture tries anew.
      worker = null;
      resolve(null);
    };
    at.postMessage(file, [port2]);
  }).finally(() => port1.close());
}

/** The photos a record names. */
export function photosOf({ kind, payload }: RecordDraft): readonly PhotoId[] {
  return kind === 'inspection' ? payload.items.flatMap(({ photoIds }) => photoIds) : [];
}

/** The photos an entry of an incident names. */
export function photosOfEntry({ kind, payload }: EntryDraft): readonly PhotoId[] {
  return kind === 'reported' || kind === 'told' ? payload.photoIds : [];
}

/** Sends those of these photos that still lie on this device. */
export async function sendPhotos(ids: readonly PhotoId[]): Promise<void> {
  if (ids.length === 0) return;
  const photos = await store();
  for (const id of ids) {
    const picture = await photos.get('waiting', id);
    if (!picture) continue;
    await sendFile(`/photos/${id}`, picture);
    await photos.delete('waiting', id);
  }
}

/** Where a photo can be seen from: this device while it waits, the register afterwards. */
export async function photoAddress(id: PhotoId, size: 'full' | 'thumbnail'): Promise<string> {
  // Where a browser keeps nothing, nothing waits either.
  const waiting = await store().then(
    (photos) => photos.get('waiting', id),
    () => undefined,
  );
  if (waiting) return URL.createObjectURL(waiting);
  return `/api/photos/${id}${size === 'thumbnail' ? '/thumbnail' : ''}`;
}
