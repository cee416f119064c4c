import type { ReactNode } from 'react';

type Props = { title: string; lead?: ReactNode; aside?: ReactNode; children: ReactNode };

/** The frame of a screen that fills the room beside the rail: its name, one sentence of what it is for, its content. */
export function Screen({ title, lead, aside, children }: Props) {
  return (
    <main id="main" className="min-w-0 flex-1 px-5 pt-4 pb-10 wide:h-screen wide:overflow-y-auto wide:px-7">
      <div className="mb-4 flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <div className="min-w-0 flex-1 basis-80">
          <h1 className="text-2xl">{title}</h1>
          {lead && <p className="muted mt-0.5 max-w-6xl">{lead}</p>}
        </div>
        {aside}
      </div>
      {children}
    </main>
  );
}
