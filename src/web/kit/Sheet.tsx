import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

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
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/40" />
        <Dialog.Content
          {...(describe ? {} : { 'aria-describedby': undefined })}
          className="fixed inset-x-3 top-[8vh] z-50 mx-auto max-h-[84vh] max-w-xl overflow-y-auto border-2 border-ink bg-ground p-5"
        >
          <Dialog.Title className="text-lg font-bold">{title}</Dialog.Title>
          {describe && <Dialog.Description className="mb-3 text-faint">{describe}</Dialog.Description>}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
