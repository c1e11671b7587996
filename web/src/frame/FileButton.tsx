import { Button, type ButtonProps } from 'antd';
import { useRef } from 'react';

interface Props extends Omit<ButtonProps, 'onClick'> {
  /** What kind of file it is, in words. */
  label: string;
  accept: string;
  onFile: (file: File) => void;
}

/** The endings of tables that can be brought. */
export const tables = '.csv,.tsv,.txt,.xlsx';

/** A button that asks for a file; the same one can be brought again. */
export function FileButton({ label, accept, onFile, ...button }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...button} onClick={() => input.current?.click()} />
      <input
        ref={input}
        type="file"
        hidden
        accept={accept}
        aria-label={label}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) {
            onFile(file);
          }
        }}
      />
    </>
  );
}
