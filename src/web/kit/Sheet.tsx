import { AlertDialog, Dialog } from 'radix-ui';
import { useRef } from 'react';
import type { ReactNode } from 'react';

const OVERLAY = 'fixed inset-0 z-40 bg-ink/40';
const PAPER =
  'fixed inset-x-3 top-[8vh] z-50 mx-auto max-h-[84vh] max-w-xl overflow-y-auto border-2 border-ink bg-ground p-5';
const TITLE = 'text-lg font-bold';
const LEAD = 'mb-3 text-faint';

/** Gives the focus back to what had it when the sheet was opened. */
function useFocusBack() {
  const opener = useRef<Element | null>(null);
  return {
    onOpenAutoFocus: () => {
      opener.current = document.activeElement;
    },
    onCloseAutoFocus: (event: Event) => {
      event.preventDefault();
      if (opener.current instanceof HTMLElement) opener.current.focus();
    },
  };
}

/** A sheet of paper laid over the page; Escape takes it away. */
export function Sheet({
  open,
  onClose,
  title,
  describe,
  children,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  describe?: string;
  children: ReactNode;
}) {
  const focus = useFocusBack();
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className={OVERLAY} />
        <Dialog.Content {...focus} {...(describe ? {} : { 'aria-describedby': undefined })} className={PAPER}>
          <Dialog.Title className={TITLE}>{title}</Dialog.Title>
          {describe && <Dialog.Description className={LEAD}>{describe}</Dialog.Description>}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** A {@link Sheet} that asks for a word before something is undone; a press beside it answers nothing. */
export function Question({
  onClose,
  title,
  describe,
  children,
}: {
  onClose: () => void;
  title: string;
  describe: string;
  children: ReactNode;
}) {
  const focus = useFocusBack();
  return (
    <AlertDialog.Root open onOpenChange={(next) => !next && onClose()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className={OVERLAY} />
        <AlertDialog.Content {...focus} className={PAPER}>
          <AlertDialog.Title className={TITLE}>{title}</AlertDialog.Title>
          <AlertDialog.Description className={LEAD}>{describe}</AlertDialog.Description>
          {children}
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
