'use client';

import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';
import { GoAnywhere } from './GoAnywhere';

const KEYS: readonly [string, string][] = [
  ['n', 'log a change'],
  ['j  k', 'next and previous in a list'],
  ['/', 'search the list'],
  ['Ctrl K', 'go anywhere'],
  ['?', 'this list'],
  ['Esc', 'close what is open'],
];

type Props = {
  siteId: number;
  shown: 'keys' | 'go';
  close: () => void;
  go: (href: string) => void;
};

/** The list of keys, and the go-anywhere list. */
export function Panels({ siteId, shown, close, go }: Props) {
  if (shown === 'keys') {
    return (
      <Panel close={close} title="Keys">
        <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
          {KEYS.map(([key, what]) => (
            <div key={key} className="contents">
              <dt className="font-semibold">{key}</dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </Panel>
    );
  }
  return (
    <Panel close={close} title="Go anywhere">
      <GoAnywhere siteId={siteId} go={go} />
    </Panel>
  );
}

type PanelProps = { close: () => void; title: string; children: React.ReactNode };

function Panel({ close, title, children }: PanelProps) {
  return (
    <Dialog open onClose={close} className="relative z-40">
      <div className="fixed inset-0 bg-black/40" aria-hidden="true" />
      <div className="fixed inset-0 flex items-start justify-center p-4 pt-[12vh]">
        <DialogPanel className="hairline w-full max-w-lg border bg-base-100 p-5">
          <DialogTitle className="mb-3 font-serif text-xl">{title}</DialogTitle>
          {children}
        </DialogPanel>
      </div>
    </Dialog>
  );
}
