import { useEffect, useReducer, useRef } from 'react';
import type { ImportKind, Reading, WholeKind } from '../../core/importing';
import { currentTime } from '../app/clock';
import type { ImportMessage, ImportQuestion, OpenedFile, Preview, Sent } from '../workers/import.worker';
import type { TextForm } from '../workers/openFile';

/** How far an import has come. */
export interface ImportState {
  readonly step: 'no-file' | 'opening' | 'read' | 'sending' | 'sent';
  readonly file: File | null;
  readonly of: ImportKind;
  readonly opened: OpenedFile | null;
  readonly reading: Reading | null;
  readonly whole: WholeKind;
  /** Null while it is worked out. */
  readonly preview: Preview | null;
  readonly progress: { readonly done: number; readonly of: number } | null;
  readonly sent: Sent | null;
  readonly problem: string | null;
}

const NO_FILE: ImportState = {
  step: 'no-file',
  file: null,
  of: 'packs',
  opened: null,
  reading: null,
  whole: 'by-line',
  preview: null,
  progress: null,
  sent: null,
  problem: null,
};

type ImportEvent =
  | ImportMessage
  | { readonly kind: 'file'; readonly file: File; readonly of: ImportKind }
  | { readonly kind: 'changed'; readonly reading: Reading; readonly whole: WholeKind }
  | { readonly kind: 'sending' }
  | { readonly kind: 'again'; readonly of: ImportKind };

/** Every change an import can undergo. */
export function importAfter(state: ImportState, event: ImportEvent): ImportState {
  switch (event.kind) {
    case 'again':
      return { ...NO_FILE, of: event.of };
    case 'file':
      return { ...NO_FILE, step: 'opening', file: event.file, of: event.of };
    case 'opened':
      return {
        ...state,
        step: 'read',
        opened: event.opened,
        reading: event.opened.guess,
        whole: event.opened.whole,
      };
    case 'changed':
      return {
        ...state,
        step: 'read',
        reading: event.reading,
        whole: event.whole,
        preview: null,
        sent: null,
        problem: null,
      };
    case 'read':
      return { ...state, preview: event.preview };
    case 'sending':
      return { ...state, step: 'sending', progress: null, problem: null };
    case 'progress':
      return { ...state, progress: { done: event.done, of: event.of } };
    case 'sent':
      return { ...state, step: 'sent', sent: event.sent };
    case 'failed':
      // What was read stays; a file that cannot be opened leaves the way open to another.
      return { ...state, step: state.opened ? 'read' : 'no-file', problem: event.why };
    default:
      return event satisfies never;
  }
}

/** An import, step by step; the file is read and sent by a worker, so that the page never stands still. */
export function useImport() {
  const [state, tell] = useReducer(importAfter, NO_FILE);
  const worker = useRef<Worker | null>(null);
  const end = () => {
    worker.current?.terminate();
    worker.current = null;
  };
  useEffect(() => end, []);
  const ask = (question: ImportQuestion) => worker.current?.postMessage(question);
  const read = (reading: Reading, whole: WholeKind) => {
    tell({ kind: 'changed', reading, whole });
    ask({ kind: 'read', reading, whole });
  };
  return {
    state,
    again: (of: ImportKind) => {
      end();
      tell({ kind: 'again', of });
    },
    open: (file: File, of: ImportKind, more: { text?: Partial<TextForm>; sheet?: string } = {}) => {
      end();
      tell({ kind: 'file', file, of });
      const own = new Worker(new URL('../workers/import.worker.ts', import.meta.url), { type: 'module' });
      worker.current = own;
      own.onmessage = ({ data }: MessageEvent<ImportMessage>) => {
        tell(data);
        if (data.kind === 'opened')
          own.postMessage({
            kind: 'read',
            reading: data.opened.guess,
            whole: data.opened.whole,
          } satisfies ImportQuestion);
      };
      own.onerror = () => tell({ kind: 'failed', why: 'This file cannot be read.' });
      own.postMessage({ kind: 'open', file, of, now: currentTime(), ...more } satisfies ImportQuestion);
    },
    read,
    send: () => {
      tell({ kind: 'sending' });
      ask({ kind: 'send' });
    },
    stop: () => ask({ kind: 'stop' }),
  };
}
