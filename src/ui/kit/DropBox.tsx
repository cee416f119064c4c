'use client';

import type { ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';

type Props = {
  readonly onFiles: (files: readonly File[]) => void;
  /** Types and endings that the file dialog offers; what else is chosen is judged by whoever reads it. */
  readonly accept: string;
  readonly multiple?: boolean;
  readonly disabled?: boolean;
  readonly label?: string;
  readonly id?: string;
  readonly 'aria-describedby'?: string;
  readonly className?: string;
  readonly children: ReactNode;
};

/** Takes files that are chosen or dropped. */
export function DropBox(props: Props) {
  const { onFiles, accept, multiple = false, disabled = false, className = 'px-3 py-2', children } = props;
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    ...{ multiple, disabled, noKeyboard: true, noClick: true },
    onDrop: (files) => files.length > 0 && onFiles(files),
  });
  return (
    <label
      {...getRootProps({ role: undefined })}
      className={`flex cursor-pointer flex-col items-center justify-center border border-dashed text-center focus-within:outline-2 ${
        isDragActive ? 'border-base-content bg-(--marked)' : 'border-(--muted)'
      } ${className}`}
    >
      <input
        {...getInputProps({ accept, style: undefined })}
        id={props.id}
        aria-label={props.label}
        aria-describedby={props['aria-describedby']}
        tabIndex={0}
        disabled={disabled}
        className="sr-only"
      />
      {children}
    </label>
  );
}
