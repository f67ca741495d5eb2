import { useRef } from 'react';
import { Button } from '~/parts/button';

/** A button that asks for a file and hands it over. */
export function FileButton({
  label,
  field,
  accept,
  busy,
  onFile,
}: {
  label: string;
  /** What the hidden field is called. */
  field: string;
  accept: string;
  busy: boolean;
  onFile: (file: File) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        hidden
        aria-label={field}
        accept={accept}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          event.target.value = '';
        }}
      />
      <Button disabled={busy} onClick={() => input.current?.click()}>
        {busy ? 'Reading …' : label}
      </Button>
    </>
  );
}
