import { useRef } from 'react';
import { Button } from './Button';

/** A button that asks for a file; the browser's own field is hidden behind it. */
export function FileButton({
  name,
  accept,
  weight = 'plain',
  disabled,
  onFile,
  children,
}: {
  /** What the field is called, for whoever cannot see the button. */
  name: string;
  accept: string;
  weight?: 'main' | 'plain';
  disabled: boolean;
  onFile: (file: File) => void;
  children: string;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={name}
        className="sr-only"
        tabIndex={-1}
        onChange={({ target }) => {
          const [file] = target.files ?? [];
          if (file) onFile(file);
          // The same file may be chosen again.
          target.value = '';
        }}
      />
      <Button weight={weight} disabled={disabled} onClick={() => input.current?.click()}>
        {children}
      </Button>
    </>
  );
}
