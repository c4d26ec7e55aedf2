import { useEffect, useEffectEvent } from 'react';
import { wedge } from './earlyScans';
import { scanMayBegin } from './scanTarget';
import { withoutScan } from './wedge';

/** Every key that does something by itself, outside of fields, and what it does. */
export const KEY_SHEET: readonly { readonly keys: string; readonly does: string }[] = [
  { keys: '/', does: 'To the scan field' },
  { keys: '?', does: 'This sheet' },
  { keys: 'g then t  p  r', does: 'Today, Packs, Rounds' },
  { keys: 'g then f  o  b', does: 'Flying, take packs out, bring them back' },
  { keys: 'g then i  e', does: 'Report an incident, Disposal' },
  { keys: 'r', does: 'On a pack: type a reading' },
  { keys: 'e', does: 'On a pack: inspect it' },
  { keys: 'c  f  i', does: 'On a pack: log a charge, a flight, its resistance' },
  { keys: 'm', does: 'On a pack: move it' },
  { keys: 'n', does: 'On a pack: write a note' },
  { keys: '↑  ↓', does: 'In a round: the row above, below' },
  { keys: 'Enter', does: 'In a field: save' },
  { keys: 'Esc', does: 'Leave a field or sheet' },
];

const JUMPS: Readonly<Record<string, string>> = {
  t: '/today',
  p: '/packs',
  r: '/rounds',
  f: '/flying',
  o: '/flying/take-out',
  b: '/flying/return',
  i: '/incidents/new',
  e: '/end-of-life',
};

interface KeyTargets {
  readonly onScan: (tag: string) => void;
  readonly onKeySheet: () => void;
  readonly go: (path: string) => void;
}

/** Listens to the whole page: a wedge scanner's run wherever the cursor is, and single keys outside of fields. */
export function useKeys(targets: KeyTargets): void {
  const onScan = useEffectEvent(targets.onScan);
  const onKeySheet = useEffectEvent(targets.onKeySheet);
  const go = useEffectEvent(targets.go);
  // Once, whatever else changes on screen: a scan in the middle of its run must not be forgotten.
  useEffect(() => {
    let before: { field: HTMLInputElement | HTMLTextAreaElement; value: string } | null = null;
    let afterG = false;

    const onKeyDown = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const field = fieldOf(event.target);
      const scanned = wedge.key(event.key, event.timeStamp);
      if (scanned !== null && !isScanField(field) && !isSecret(field) && looksLikeTag(scanned)) {
        event.preventDefault();
        event.stopPropagation();
        if (field && before?.field === field) restore(field, before.value);
        // The cursor came into this field while the scan was on its way.
        else if (field) restore(field, withoutScan(field.value, scanned));
        onScan(scanned);
        return;
      }
      if (wedge.starting) {
        before = field ? { field, value: field.value } : null;
        scanMayBegin();
      }
      if (answersLetters(event.target)) return;
      if (event.key === 'Escape') field?.blur();
      // No text here begins with a slash, so in an empty field it is the way out and not a character.
      if (field && !(event.key === '/' && field.value === '' && !isScanField(field))) return;
      const jump = afterG ? JUMPS[event.key] : undefined;
      afterG = event.key === 'g';
      if (jump) go(jump);
      else if (event.key === '/') document.querySelector<HTMLElement>('[data-scan-field]')?.focus();
      else if (event.key === '?') onKeySheet();
      else return;
      event.preventDefault();
    };
    // Before React and the fields see the key, so that a scan's Enter saves nothing.
    window.addEventListener('keydown', onKeyDown, { capture: true });
    return () => window.removeEventListener('keydown', onKeyDown, { capture: true });
  }, []);
}

/** Volts pasted or typed very fast are no tag: a tag has a letter in it. */
function looksLikeTag(text: string): boolean {
  return /\p{L}/u.test(text);
}

function fieldOf(target: EventTarget | null): HTMLInputElement | HTMLTextAreaElement | null {
  if (target instanceof HTMLTextAreaElement) return target;
  return target instanceof HTMLInputElement && !['checkbox', 'radio'].includes(target.type) ? target : null;
}

function isScanField(field: HTMLElement | null): boolean {
  return field?.hasAttribute('data-scan-field') ?? false;
}

/** Whether letters pressed here are answered by what holds the focus: a dialog, a menu, a list, or the field that opens a list. */
export function answersLetters(target: EventTarget | null): boolean {
  return target instanceof Element && target.closest(ANSWERS_LETTERS) !== null;
}

const ANSWERS_LETTERS =
  '[role="dialog"], [role="alertdialog"], [role="menu"], [role="listbox"], button[role="combobox"]';

/** What fills in a password, and a badge scanned where it is asked for, is as quick as a scanner, and means that field. */
function isSecret(field: HTMLElement | null): boolean {
  return field instanceof HTMLInputElement && field.type === 'password';
}

/** Takes a scan's characters out of the field they landed in, in a way React notices. */
function restore(field: HTMLInputElement | HTMLTextAreaElement, value: string): void {
  const prototype =
    field instanceof HTMLInputElement ? HTMLInputElement.prototype : HTMLTextAreaElement.prototype;
  Object.getOwnPropertyDescriptor(prototype, 'value')?.set?.call(field, value);
  field.dispatchEvent(new Event('input', { bubbles: true }));
}
