'use client';

import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';
import { Command } from 'cmdk';
import { routes, SCREENS } from './routes';
import type { Place } from './Shortcuts';

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
  places: readonly Place[];
  shown: 'keys' | 'go';
  close: () => void;
  go: (href: string) => void;
};

/** The list of keys, and the go-anywhere list. */
export function Panels({ siteId, places, shown, close, go }: Props) {
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
      <Command label="Go anywhere" loop>
        <Command.Input autoFocus placeholder="A screen, a change or a page" className="input w-full" />
        <Command.List className="mt-3 max-h-80 overflow-y-auto">
          <Command.Empty className="muted py-3">Nothing is called that.</Command.Empty>
          {SCREENS.map(({ name, to, hint }) => (
            <Choice key={name} name={name} detail={hint} choose={() => go(to(siteId))} />
          ))}
          <Choice name="Log a change" detail="n" choose={() => go(routes.newChange(siteId))} />
          {places.map(({ name, detail, href }) => (
            <Choice key={href + detail} name={name} detail={detail} choose={() => go(href)} />
          ))}
        </Command.List>
      </Command>
    </Panel>
  );
}

function Choice({ name, detail, choose }: { name: string; detail: string; choose: () => void }) {
  return (
    <Command.Item
      value={`${name} ${detail}`}
      onSelect={choose}
      className="flex cursor-pointer justify-between gap-4 px-2 py-1.5 data-[selected=true]:bg-base-300"
    >
      <span>{name}</span>
      <span className="muted truncate text-sm">{detail}</span>
    </Command.Item>
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
