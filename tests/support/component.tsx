import { render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { RIGHTS, type Right } from '@/core/access/rights';
import { parseIsoDay } from '@/core/calendar/day';
import { SiteDays } from '@/ui/kit/dates/SiteDays';
import { ToastProvider } from '@/ui/kit/Toast';
import { MayProvider } from '@/ui/shell/May';

/** The day of the site in component tests, and the newest day of its figures. */
const DAYS = { today: parseIsoDay('2026-11-24')!, newest: parseIsoDay('2026-11-21')! };

/**
 * Draws a component as screens of a site do: with messages, and with the given rights. Returns the
 * user that acts on it, and what Testing Library returns.
 */
export function draw(component: ReactNode, rights: readonly Right[] = RIGHTS) {
  const user = userEvent.setup();
  const wrapper = ({ children }: { children: ReactNode }) => (
    <MayProvider rights={rights}>
      <SiteDays {...DAYS}>
        <ToastProvider>{children}</ToastProvider>
      </SiteDays>
    </MayProvider>
  );
  const drawn = render(component, { wrapper });
  return { user, ...drawn };
}

/** What an action answers when it succeeds. */
export const done = <T,>(value: T) => Promise.resolve({ ok: true as const, value });

/** What an action answers when a field is wrong. */
export const refusedFor = (field: string, message: string) =>
  Promise.resolve({ ok: false as const, errors: [{ field, message }] });

/** What an action answers when somebody else changed the same fields. */
export const metBy = (fields: readonly string[], now: object) =>
  Promise.resolve({
    ok: false as const,
    errors: [{ field: 'root', message: 'Somebody else changed the same.' }],
    meanwhile: { fields, now },
  });
