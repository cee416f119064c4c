import Link from 'next/link';
import type { ComponentProps } from 'react';

/**
 * A link within the application. Pages aren't fetched ahead: a screen has dozens of links, and each
 * costs the server a reading.
 */
export function AppLink(props: ComponentProps<typeof Link>) {
  return <Link prefetch={false} {...props} />;
}
