import type { ReactNode } from 'react';

type Props = {
  label: string;
  value: string;
  set: (value: string) => void;
  className?: string;
  children: ReactNode;
};

/** A choice from a list that stands in a line of text, underlined instead of boxed. */
export function Choice({ label, value, set, className = 'border-b border-(--muted)', children }: Props) {
  return (
    <select
      aria-label={label}
      className={`bg-transparent font-semibold text-base-content ${className}`}
      value={value}
      onChange={(e) => set(e.target.value)}
    >
      {children}
    </select>
  );
}
