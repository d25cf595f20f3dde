'use client';
import type { RefObject } from 'react';

/** Asks for one file; out of sight, opened by a click on `input` from elsewhere. */
export function FileInput(props: {
  input: RefObject<HTMLInputElement | null>;
  label: string;
  accept: string;
  onFile: (file: File) => void;
}) {
  return (
    <input
      ref={props.input}
      type="file"
      hidden
      aria-label={props.label}
      accept={props.accept}
      onChange={({ currentTarget }) => {
        const [file] = currentTarget.files ?? [];
        if (file) props.onFile(file);
        currentTarget.value = ''; // so that the same file can be chosen again
      }}
    />
  );
}
