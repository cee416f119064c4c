'use client';

import { useState } from 'react';
import { useToast } from '../kit/Toast';
import { routes } from '../shell/routes';

/** Puts a reading into the clipboard as Markdown, for a ticket. */
export function CopyReading({ siteId, changeId }: { siteId: number; changeId: number }) {
  const [busy, setBusy] = useState(false);
  const say = useToast();
  const copy = async () => {
    setBusy(true);
    try {
      const answer = await fetch(routes.readingReport(siteId, changeId, 'md'));
      if (!answer.ok) throw new Error(String(answer.status));
      await navigator.clipboard.writeText(await answer.text());
      say('The reading is in the clipboard, as Markdown.');
    } catch {
      say('It could not be put into the clipboard. Save it as a report instead.', undefined, true);
    } finally {
      setBusy(false);
    }
  };
  return (
    <button type="button" className="inline-link" disabled={busy} onClick={() => void copy()}>
      Copy for a ticket
    </button>
  );
}
