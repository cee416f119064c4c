import '@fontsource-variable/newsreader/wght.css';
import '@fontsource-variable/newsreader/wght-italic.css';
import '@fontsource-variable/public-sans/wght.css';
import './globals.css';
import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import { NuqsAdapter } from 'nuqs/adapters/next/app';
import type { ReactNode } from 'react';
import { themeFrom } from '@/ui/shell/theme';
import { ToastProvider } from '@/ui/kit/Toast';

export const metadata: Metadata = {
  title: { default: 'Modest Tally', template: '%s · Modest Tally' },
  description: 'Log on-page changes and read what search traffic did before and after each of them.',
};

export default async function RootLayout({ children }: { children: ReactNode }) {
  const theme = themeFrom((await cookies()).get('theme')?.value);
  return (
    <html lang="en-GB" {...(theme === 'auto' ? {} : { 'data-theme': theme })}>
      <body className="bg-base-100 text-base-content antialiased">
        <NuqsAdapter>
          <ToastProvider>{children}</ToastProvider>
        </NuqsAdapter>
      </body>
    </html>
  );
}
