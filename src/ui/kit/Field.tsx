'use client';

import { useId, type ReactNode } from 'react';

type Props = {
  readonly label: string;
  readonly hint?: ReactNode;
  readonly error?: string | undefined;
  readonly className?: string;
  /** Gets the id and the descriptions that tie the control to its label, hint and complaint. */
  readonly children: (control: {
    id: string;
    'aria-describedby': string;
    'aria-invalid': boolean;
  }) => ReactNode;
};

/** A labelled control with its hint, and what is wrong with it beside it. */
export function Field({ label, hint, error, className, children }: Props) {
  const id = useId();
  return (
    <div className={className}>
      <label htmlFor={id} className="mb-0.5 block text-[0.85rem] font-semibold">
        {label}
      </label>
      {children({ id, 'aria-describedby': `${id}-more`, 'aria-invalid': Boolean(error) })}
      <div id={`${id}-more`} className="text-[0.8rem]">
        {error ? (
          <p className="mt-0.5 font-medium text-error">{error}</p>
        ) : (
          hint && <p className="muted mt-0.5">{hint}</p>
        )}
      </div>
    </div>
  );
}
