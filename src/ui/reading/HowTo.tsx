import type { ReactNode } from 'react';

/** How a part of a reading is to be read, folded away behind a word beside it. */
export function HowTo({ children }: { children: ReactNode }) {
  return (
    <details className="text-[0.8rem] [&[open]]:basis-full">
      <summary className="muted list-none underline decoration-dotted underline-offset-3 [&::-webkit-details-marker]:hidden">
        how to read this
      </summary>
      <div className="mt-1 max-w-[46rem] border-l-2 border-(--hairline) pl-2">{children}</div>
    </details>
  );
}

/** A part of a reading under its name, with how to read it. */
export function Part({
  title,
  howTo,
  className = '',
  children,
}: {
  title: string;
  howTo?: ReactNode;
  className?: string;
  children: ReactNode;
}) {
  return (
    <section className={`min-w-0 ${className}`}>
      <div className="mb-1.5 flex flex-wrap items-baseline justify-between gap-x-3 border-b border-base-content">
        <h3 className="text-[1.05rem]">{title}</h3>
        {howTo && <HowTo>{howTo}</HowTo>}
      </div>
      {children}
    </section>
  );
}
