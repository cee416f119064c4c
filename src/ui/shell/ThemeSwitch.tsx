'use client';

import { useState } from 'react';
import { THEMES, type Theme } from './theme';

/** Chooses the look, at once and for later visits. */
export function ThemeSwitch({ theme }: { theme: Theme }) {
  const [chosen, setChosen] = useState(theme);
  const choose = (next: Theme) => {
    setChosen(next);
    document.cookie = `theme=${next}; path=/; max-age=31536000; samesite=strict`;
    if (next === 'auto') delete document.documentElement.dataset.theme;
    else document.documentElement.dataset.theme = next;
  };
  return (
    <label className="muted block">
      <span className="sr-only">Look</span>
      <select
        className="-ml-1 w-full bg-transparent"
        value={chosen}
        onChange={(e) => choose(e.target.value as Theme)}
      >
        {Object.entries(THEMES).map(([value, name]) => (
          <option key={value} value={value}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
