'use client';

import { useState } from 'react';

/** Something that opens a door, shown this once, to be copied. */
export function ShownOnce({ label, text, note }: { label: string; text: string; note: string }) {
  const [copied, setCopied] = useState(false);
  const copy = () =>
    navigator.clipboard.writeText(text).then(
      () => setCopied(true),
      // Browsers keep the clipboard to pages with TLS: it is marked and copied by hand.
      () => setCopied(false),
    );
  return (
    <div className="hairline mt-2 border-l-3 pl-3" role="status">
      <p className="text-[0.85rem] font-semibold">{label}</p>
      <p className="flex flex-wrap items-center gap-x-3">
        <code className="text-[0.85rem] break-all select-all">{text}</code>
        {typeof navigator !== 'undefined' && navigator.clipboard && (
          <button type="button" className="inline-link min-h-7" onClick={() => void copy()}>
            {copied ? 'Copied' : 'Copy'}
          </button>
        )}
      </p>
      <p className="muted text-[0.8rem]">{note}</p>
    </div>
  );
}
