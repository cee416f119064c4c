import type { ReactNode } from 'react';
import { TallyMark } from '../shell/TallyMark';

/** The frame of a screen that is about no site: the mark, a name, a sentence, and what is to be done. */
export function Plain({
  title,
  lead,
  wide = false,
  children,
}: {
  title: string;
  lead?: ReactNode;
  wide?: boolean;
  children?: ReactNode;
}) {
  return (
    <main id="main" className={`mx-auto px-5 py-12 ${wide ? 'max-w-4xl' : 'max-w-lg'}`}>
      <p className="mb-7 flex items-center gap-3 font-serif text-xl font-semibold">
        <TallyMark className="h-7 w-8" /> Modest Tally
      </p>
      <h1 className="text-3xl">{title}</h1>
      {lead && <div className="mt-2 mb-5 font-serif text-lg leading-snug">{lead}</div>}
      {children}
    </main>
  );
}
