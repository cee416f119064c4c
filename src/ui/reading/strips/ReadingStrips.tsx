'use client';

import type { Chart } from 'chart.js';
import { useEffect, useRef } from 'react';
import type { StripsData } from './data';
import { RAIL } from './drawings';
import { useInk } from './ink';

const STRIP_HEIGHT = 52;

/** The signature picture: strips on one time axis, with the spans, their levels, and a rail of changes. */
export function ReadingStrips({ data, summary }: { data: StripsData; summary: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const ink = useInk();

  useEffect(() => {
    if (!canvas.current || !ink) return;
    let chart: Chart<'line'> | null = null;
    let gone = false;
    const fonts = Promise.allSettled([
      document.fonts.load(`400 11px ${ink.font}`),
      document.fonts.load(`600 12px ${ink.font}`),
    ]);
    void (async () => {
      const { drawStrips } = await import('./chart');
      // A canvas does not redraw by itself when its font arrives.
      await fonts;
      if (!gone && canvas.current) chart = drawStrips(canvas.current, data, ink);
    })();
    return () => {
      gone = true;
      chart?.destroy();
    };
    // The ink is a new object on every render and is compared by its text.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [data, JSON.stringify(ink)]);

  return (
    <div style={{ height: STRIP_HEIGHT * data.strips.length + RAIL }}>
      <canvas ref={canvas} role="img" aria-label={summary} />
    </div>
  );
}
